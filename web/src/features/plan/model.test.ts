import { expect, it } from 'vitest'
import type { Forecast, YearDay } from './api'
import { by, losable, pacesOf, said } from './model'

it('offers the pace of the school, of its year groups, and a number for one class', () => {
  const paces = pacesOf({ per_week: 4, speeds: [{ name: 'as slow as 2', per_week: 2 }] })
  expect(paces[0]).toEqual({ speed: '', per_week: 0, says: 'as the school: 4' })
  expect(paces[1]).toEqual({ speed: 'as slow as 2', per_week: 0, says: 'as as slow as 2: 2' })
  expect(paces.at(-1)?.per_week).toBe(10)
  expect(new Set(paces.map((p) => `${p.speed}|${p.per_week}`)).size).toBe(paces.length)
})

const day = (part: Partial<YearDay>) => ({ date: '2026-11-30', kind: 'empty', silent: false, ...part }) as YearDay

it('lets a planned lesson be lost, and a day of which nothing was logged', () => {
  expect(losable(day({ kind: 'lesson' }))).toBe(true)
  expect(losable(day({ kind: 'taught', silent: true }))).toBe(true)
  expect(losable(day({ kind: 'taught' }))).toBe(false)
  expect(losable(day({ kind: 'off' }))).toBe(false)
})

it('counts a week for every day from its Monday on', () => {
  const week = (monday: string, words: number) => ({ monday, words, texts: ['a'] })
  const forecast = { now: { words: 5 }, weeks: [week('2026-11-30', 20), week('2026-12-07', 40)] } as unknown as Forecast
  expect(by(forecast, '2026-11-29')).toEqual({ words: 5, texts: 0 })
  expect(by(forecast, '2026-11-30')).toEqual({ words: 20, texts: 1 })
  expect(by(forecast, '2026-12-06')).toEqual({ words: 20, texts: 1 })
  expect(by(forecast, '2026-12-07')).toEqual({ words: 40, texts: 2 })
})

it('says what is on a day in words a teacher uses', () => {
  expect(said(day({ kind: 'lesson', purpose: 'introduce' }), ['sh'])).toBe('new: sh')
  expect(said(day({ kind: 'taught', purpose: 'introduce' }), ['sh'])).toBe('taught: sh')
  expect(said(day({ kind: 'lesson', purpose: 'catch-up' }), ['sh', 'ch'])).toBe('catches up on sh, ch')
  expect(said(day({ kind: 'lost', name: 'a trip' }), [])).toBe('lost: a trip')
  expect(said(day({ kind: 'taught', silent: true }), ['sh'])).toBe('nothing was logged')
})
