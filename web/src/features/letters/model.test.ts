import { describe, expect, it } from 'vitest'
import { grips, moved, pathOf, snapped, type DrawnLetter } from './model'

const l: DrawnLetter = {
  sign: 'l',
  family: 'stick',
  strokes: [
    {
      start: { x: 0, y: 2 },
      segments: [
        { move: 'line', c1: { x: 0, y: 1.33 }, c2: { x: 0, y: 0.67 }, to: { x: 0, y: 0 } },
        { move: 'bend', c1: { x: 0, y: 0 }, c2: { x: 0.2, y: 0 }, to: { x: 0.4, y: 0.2 } },
      ],
    },
  ],
}

describe('drawing a letter', () => {
  it('has a grip for every end and every bend of a curve', () => {
    expect(grips(l)).toHaveLength(5)
    expect(pathOf(l.strokes![0]!)).toMatch(/^M0.000 -2.000C0.000 -1.330 /)
  })
  it('snaps to a line or over another end when near, and not otherwise', () => {
    const end = { stroke: 0, segment: 1, which: 'to' as const }
    expect(snapped(l, end, { x: 0.5, y: 0.97 })).toEqual({ x: 0.5, y: 1 })
    expect(snapped(l, end, { x: 0.04, y: 0.5 })).toEqual({ x: 0, y: 0.5 })
    expect(snapped(l, end, { x: 0.5, y: 0.85 })).toEqual({ x: 0.5, y: 0.85 })
  })
  it('keeps straight lines straight', () => {
    const m = moved(l, { stroke: 0, segment: -1, which: 'to' }, { x: 0.3, y: 1.5 })
    const g = m.strokes![0]!.segments![0]!
    expect(m.strokes![0]!.start).toEqual({ x: 0.3, y: 1.5 })
    expect(g.c1.x).toBeCloseTo(0.2)
    expect(g.c1.y).toBeCloseTo(1)
    expect(l.strokes![0]!.start.y).toBe(2)
  })
})
