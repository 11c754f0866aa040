import type { Schemas } from '../../api/client'

export type DrawnLetter = Schemas['StrokesLetter']
export type Stroke = Schemas['StrokesStroke']
export type Point = { x: number; y: number }
/** A point of a letter: of which stroke, of which segment (-1 is the start), which of its three. */
export type Grip = { stroke: number; segment: number; which: 'c1' | 'c2' | 'to' }

export const lineHeights = [2, 1, 0, -1]
const snap = 0.06

/** SVG path data of a stroke in x-heights, y downwards. */
export function pathOf(s: Stroke): string {
  const at = (p: Point) => `${p.x.toFixed(3)} ${(-p.y).toFixed(3)}`
  const segments = s.segments
  return `M${at(s.start)}${segments.map((g) => `C${at(g.c1)} ${at(g.c2)} ${at(g.to)}`).join('')}${segments.length ? '' : 'l0.001 0'}`
}

/** All points that can be moved; the bends of straight lines follow their ends. */
export function grips(l: DrawnLetter): { grip: Grip; at: Point; end: boolean }[] {
  return l.strokes.flatMap((s, stroke) => [
    { grip: { stroke, segment: -1, which: 'to' as const }, at: s.start, end: true },
    ...s.segments.flatMap((g, segment) => [
      ...(g.move === 'line'
        ? []
        : [
            { grip: { stroke, segment, which: 'c1' as const }, at: g.c1, end: false },
            { grip: { stroke, segment, which: 'c2' as const }, at: g.c2, end: false },
          ]),
      { grip: { stroke, segment, which: 'to' as const }, at: g.to, end: true },
    ]),
  ])
}

/** Where a point comes to lie: on a writing line or over another end, if it is near one. */
export function snapped(l: DrawnLetter, grip: Grip, to: Point): Point {
  const ends = grips(l).filter(
    (g) => g.end && !(g.grip.stroke === grip.stroke && g.grip.segment === grip.segment && g.grip.which === grip.which),
  )
  const y = [...lineHeights, ...ends.map((e) => e.at.y)].find((h) => Math.abs(h - to.y) < snap) ?? to.y
  const x = ends.map((e) => e.at.x).find((v) => Math.abs(v - to.x) < snap) ?? to.x
  const round = (v: number) => Math.round(v * 1000) / 1000
  return { x: round(x), y: round(y) }
}

/** The letter with one point moved. */
export function moved(l: DrawnLetter, grip: Grip, to: Point): DrawnLetter {
  const strokes = l.strokes.map((s, i) => {
    if (i !== grip.stroke) return s
    const start = grip.segment === -1 ? to : s.start
    const segments = s.segments.map((g, k) => (k === grip.segment ? { ...g, [grip.which]: to } : g))
    return {
      start,
      segments: segments.map((g, k) =>
        g.move === 'line' ? straight(k === 0 ? start : (segments[k - 1]?.to ?? start), g) : g,
      ),
    }
  })
  return { ...l, strokes }
}

function straight<T extends { to: Point }>(from: Point, g: T): T {
  const part = (t: number) => ({ x: from.x + (g.to.x - from.x) * t, y: from.y + (g.to.y - from.y) * t })
  return { ...g, c1: part(1 / 3), c2: part(2 / 3) }
}

export const signs = ['abcdefghijklmnopqrstuvwxyz', 'ABCDEFGHIJKLMNOPQRSTUVWXYZ', '0123456789.'].map((row) => [...row])
