import { describe, expect, it } from 'vitest'
import { frameAt, stretched, type Drawing } from './mouth'

const shape = (xy: number[]) => ({ part: 'tongue', xy, closed: false, width: 0.02, fill: 'none' as const })
const mark = { d: 'M0 0', width: 0.02, ink: 'air' as const }
const still = (phase: string, xy: number[], sounds: boolean) => ({
  phase,
  ms: 100,
  side: [shape(xy)],
  front: [shape(xy)],
  side_marks: sounds ? [mark] : [],
  front_marks: [],
})

const d = {
  stills: [
    still('rest', [0, 0], false),
    still('closure', [1, 0], true),
    still('release', [2, 0], true),
    still('rest', [0, 0], false),
  ],
  keys: [
    { at: 0, still: 0, move: 0, sound: false },
    { at: 180, still: 1, move: 180, sound: true },
    { at: 330, still: 2, move: 30, sound: true },
    { at: 560, still: 3, move: 150, sound: false },
  ],
} as unknown as Drawing

const x = (ms: number) => frameAt(d, ms, 'side').shapes[0]?.xy[0]

describe('the mouth in time', () => {
  it('moves from still to still and rests at the ends', () => {
    expect(x(0)).toBe(0)
    expect(x(90)).toBeCloseTo(0.5)
    expect(x(180)).toBe(1)
    expect(x(299)).toBe(1) // what closes stays closed until it opens
    expect(x(315)).toBeCloseTo(1.5)
    expect(x(400)).toBe(2)
    expect(x(9999)).toBe(0)
  })
  it('has air and voice only while it sounds', () => {
    expect(frameAt(d, 100, 'side').marks).toHaveLength(0)
    expect(frameAt(d, 200, 'side').marks).toHaveLength(1)
    expect(frameAt(d, 9999, 'side').marks).toHaveLength(0)
  })
  it('stretches what is held and never what is let go', () => {
    expect(stretched(d, 360, 2)).toBeCloseTo(180) // the way there takes twice as long
    const opens = stretched(d, 360 + 150, 2) ?? 0 // the closure with its quick opening is as long as ever
    expect(opens).toBeCloseTo(330)
    expect(stretched(d, 99999, 3)).toBeUndefined()
  })
})
