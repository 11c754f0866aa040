import { expect, test } from 'vitest'
import type { TodayView } from './api'
import { dayFrom, sides, waitsFor } from './model'

test('days are named from today', () => {
  expect(dayFrom('2026-11-26', '2026-11-26')).toBe('today')
  expect(dayFrom('2026-11-27', '2026-11-26')).toBe('tomorrow')
  expect(dayFrom('2026-11-30', '2026-11-26')).toBe('Monday')
  expect(dayFrom('2026-12-03', '2026-11-26')).toBe('Thu 3 Dec')
  expect(dayFrom('2026-11-25', '2026-11-26')).toBe('yesterday')
})

const klass = (name: string, mine: boolean) => ({ class: { name }, mine }) as TodayView['classes'][number]

test('own classes stand first; who has none sees all', () => {
  const [a, b] = [klass('a', false), klass('b', true)]
  expect(sides([a, b])).toEqual({ first: [b], rest: [a] })
  expect(sides([a])).toEqual({ first: [a], rest: [] })
})

const waiting = (card_id: string, part: Partial<TodayView['waiting'][number]>) =>
  ({ card_id, asked: false, said: false, mine: false, ...part }) as TodayView['waiting'][number]

test('a card waits for who was asked, and for who may decide; not for who said so or put it forward', () => {
  const all = [
    waiting('asked', { asked: true }),
    waiting('mine', { mine: true, asked: true }),
    waiting('said', { said: true }),
    waiting('open', {}),
  ]
  const ids = (list: typeof all) => list.map((w) => w.card_id)
  expect(ids(waitsFor(all, false).me)).toEqual(['asked'])
  expect(ids(waitsFor(all, true).me)).toEqual(['asked', 'open'])
  expect(ids(waitsFor(all, true).others)).toEqual(['mine', 'said'])
})
