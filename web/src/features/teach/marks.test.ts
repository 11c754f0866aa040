import { describe, expect, it } from 'vitest'
import { anew, join, newer, secondsOf, stamp, start, stateOf, tapped, type Mark, type Marks } from './marks'

const none: Marks = new Map()
const mark = (name: string, value: unknown, n: number, by: string): Mark => ({
  name,
  value: JSON.stringify(value),
  n,
  by,
})

describe('joining what faces set', () => {
  it('ends alike in every order', () => {
    const all = [mark('at', 1, 1, 'a'), mark('at', 2, 2, 'b'), mark('at', 3, 2, 'a'), mark('strip', false, 1, 'c')]
    const ends = [all, [...all].reverse(), [...all, ...all]].map((list) => join(none, list))
    for (const e of ends) expect(new Map([...e].sort())).toEqual(new Map([...(ends[0] ?? none)].sort()))
    expect(ends[0]?.get('at')?.value).toBe('2') // of two at once, the face with the later name
  })
  it('keeps the same map where nothing is new', () => {
    const marks = join(none, [mark('at', 1, 4, 'a')])
    expect(join(marks, [mark('at', 9, 3, 'z')])).toBe(marks)
    expect(stamp(marks, { at: 2 }, 'b')[0]?.n).toBe(5)
    expect(newer(marks, none)).toHaveLength(1)
    expect(newer(marks, marks)).toHaveLength(0)
  })
})

describe('the state', () => {
  it('is read from marks, with what is missing as it begins', () => {
    const s = stateOf(
      join(none, [mark('at', { screen: 4 }, 1, 'a'), mark('sure.x', 1, 1, 'a'), mark('sure.y', null, 2, 'a')]),
    )
    expect(s.place).toEqual({ ...start, screen: 4 })
    expect([...s.unsure]).toEqual([['x', 1]])
    expect(s.strip).toBe(true)
    expect(stateOf(join(none, [{ name: 'at', value: '{', n: 1, by: 'a' }])).place).toEqual(start)
  })
  it('counts the clock, and not the night in between', () => {
    const clock = { seconds: 60, runs: true, at: 1_000_000 }
    expect(secondsOf(clock, 1_030_000)).toBe(90)
    expect(secondsOf(clock, 1_000_000 + 20 * 3600_000)).toBe(60)
    expect(secondsOf({ ...clock, runs: false }, 1_030_000)).toBe(60)
    expect(secondsOf(clock, 990_000)).toBe(60) // a clock that is ahead
  })
  it('begins anew without what was noted', () => {
    const old = join(none, [mark('at', { screen: 9 }, 8, 'a'), mark('sure.x', 0, 9, 'b'), mark('ended', true, 9, 'b')])
    const s = stateOf(join(old, stamp(old, anew(old, 5), 'c')))
    expect(s.place.screen).toBe(0)
    expect(s.unsure.size).toBe(0)
    expect(s.ended).toBe(false)
  })
  it('taps from sure to shaky to not yet, and round', () => {
    expect(tapped(undefined)).toBe(1)
    expect(tapped(1)).toBe(0)
    expect(tapped(0)).toBe(null)
  })
})
