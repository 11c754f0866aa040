import { expect, test } from 'vitest'
import type { Remark } from './api'
import { ago, partsOf, pieces, threadsOf, withNames } from './model'

const remark = (part: Partial<Remark>): Remark => ({
  remark_id: 'a',
  card_id: 'c',
  parent_id: '',
  field: 'rhyme',
  body: '',
  version: 1,
  made_id: 'm',
  made_by: 'Nell',
  initials: 'NH',
  made_at: '2026-11-26T08:00:00Z',
  taken_by: '',
  settled_by: '',
  ...part,
})

test('a change is shown by words, and both wordings can be read out of it', () => {
  const before = 'Market men make merry.'
  const now = 'Market women make music.'
  const out = pieces(before, now)
  const read = (not: string) =>
    out
      .filter((p) => p.kind !== not)
      .map((p) => p.text)
      .join('')
  expect(read('new')).toBe(before)
  expect(read('gone')).toBe(now)
  expect(out.filter((p) => p.kind === 'new').map((p) => p.text.trim())).toEqual(['women', 'music'])
})

test('what changed stands before what is talked about, and the rest after both', () => {
  const parts = partsOf(
    ['take', 'rhyme'],
    [remark({ field: 'action' }), remark({ field: 'rhyme' }), remark({ field: '' })],
  )
  expect(parts.changed).toEqual(['rhyme', 'take'])
  expect(parts.talked).toEqual(['action'])
  expect(parts.rest).not.toContain('rhyme')
  expect(parts.rest).not.toContain('action')
  expect(parts.rest).toContain('letter')
})

test('a settled thread stands behind the open ones, each with its answers', () => {
  const all = [
    remark({ remark_id: 'old', settled_at: '2026-11-26T09:00:00Z' }),
    remark({ remark_id: 'new' }),
    remark({ remark_id: 'answer', parent_id: 'old' }),
  ]
  const threads = threadsOf(all, 'rhyme')
  expect(threads.map((t) => t.first.remark_id)).toEqual(['new', 'old'])
  expect(threads[1]?.answers.map((a) => a.remark_id)).toEqual(['answer'])
})

test('names are those of the team only', () => {
  expect(withNames('@NH and @XY: see @nh', ['NH']).filter((p) => p.name)).toEqual([
    { text: '@NH', name: true },
    { text: '@nh', name: true },
  ])
})

test('times are said as people say them', () => {
  const now = Date.parse('2026-11-26T10:00:00Z')
  expect(ago('2026-11-26T09:59:40Z', now)).toBe('just now')
  expect(ago('2026-11-26T09:10:00Z', now)).toBe('50 min ago')
  expect(ago('2026-11-26T06:00:00Z', now)).toBe('4 h ago')
  expect(ago('2026-10-02T06:00:00Z', now)).toBe('2 Oct 2026')
})
