import { expect, it } from 'vitest'
import { pacesOf } from './model'

it('offers the pace of the school, of its year groups, and a number for one class', () => {
  const paces = pacesOf({ per_week: 4, speeds: [{ name: 'as slow as 2', per_week: 2 }] })
  expect(paces[0]).toEqual({ speed: '', per_week: 0, says: 'as the school: 4' })
  expect(paces[1]).toEqual({ speed: 'as slow as 2', per_week: 0, says: 'as as slow as 2: 2' })
  expect(paces.at(-1)?.per_week).toBe(10)
  expect(new Set(paces.map((p) => `${p.speed}|${p.per_week}`)).size).toBe(paces.length)
})
