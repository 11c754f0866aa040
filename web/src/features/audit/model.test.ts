import { expect, test } from 'vitest'
import type { Finding } from './api'
import { groups } from './model'

const finding = (key: string, code: Finding['code'], left = false): Finding => ({
  key,
  code,
  cards: ['c'],
  field: 'rhyme',
  text: '',
  ...(left ? { left: { key, why: 'so', left_by: 'Odile', left_at: '2026-11-26T08:00:00Z' } } : {}),
})

test('findings stand by kind in their order, those that are left apart', () => {
  const { open, left } = groups([
    finding('1', 'contradiction'),
    finding('2', 'slip', true),
    finding('3', 'slip'),
    finding('4', 'contradiction'),
  ])
  expect(open.map((g) => [g.code, g.list.map((f) => f.key)])).toEqual([
    ['contradiction', ['1', '4']],
    ['slip', ['3']],
  ])
  expect(left.map((f) => f.key)).toEqual(['2'])
})
