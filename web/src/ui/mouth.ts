import type { Schemas } from '../api/client'

export type Drawing = Schemas['MouthDrawing']
type Still = Drawing['stills'][number]
type Shape = Still['side'][number]
export type View = 'side' | 'front'

/** What is seen at a moment: each part with its points, and the signs of air and voice. */
export type Frame = { shapes: Shape[]; marks: Still['side_marks']; still: number }

const shapesOf = (s: Still, view: View) => (view === 'side' ? s.side : s.front)
const marksOf = (s: Still, view: View) => (view === 'side' ? s.side_marks : s.front_marks)

const ease = (t: number) => t * t * (3 - 2 * t)

/** One still, as it is. */
export function stillFrame(d: Drawing, still: number, view: View): Frame {
  const s = d.stills[still]
  return s ? { shapes: shapesOf(s, view), marks: marksOf(s, view), still } : { shapes: [], marks: [], still }
}

/**
 * The mouth so many milliseconds after it began to move. Points go from still to still, names never do; air and voice
 * switch at the border of phases.
 */
export function frameAt(d: Drawing, ms: number, view: View): Frame {
  const next = d.keys.findIndex((k) => k.at > ms)
  const to = next < 0 ? d.keys.at(-1) : d.keys[next]
  const from = next < 0 ? to : d.keys[next - 1]
  const a = from && d.stills[from.still]
  const b = to && d.stills[to.still]
  if (!a || !b) return stillFrame(d, 0, view)
  const begun = to.at - to.move
  const part = ms <= begun || to === from ? 0 : ease((ms - begun) / Math.max(1, to.move))
  const goal = shapesOf(b, view)
  const shapes = shapesOf(a, view).map((s, i) => ({
    ...s,
    xy: s.xy.map((v, k) => v + ((goal[i]?.xy[k] ?? v) - v) * part),
  }))
  return { shapes, marks: from.sound ? marksOf(a, view) : [], still: from.still }
}

/**
 * A time of the slow showing as a time of the sound: holds, starts and ends are stretched, a release never is. Returns
 * the time in the sound, or undefined after its end.
 */
export function stretched(d: Drawing, elapsed: number, times: number): number | undefined {
  let shown = 0
  for (let i = 1; i < d.keys.length; i++) {
    const [a, b] = [d.keys[i - 1], d.keys[i]]
    if (!a || !b) break
    const still = d.stills[a.still]
    const quick = b.move <= 30
    const long = (b.at - a.at) * (still?.phase === 'release' || quick ? 1 : times)
    if (elapsed < shown + long) return a.at + ((elapsed - shown) / long) * (b.at - a.at)
    shown += long
  }
  return undefined
}

export const pathOf = (s: Shape) => {
  let d = ''
  for (let i = 0; i + 1 < s.xy.length; i += 2)
    d += `${i === 0 ? 'M' : 'L'}${s.xy[i]?.toFixed(3)} ${s.xy[i + 1]?.toFixed(3)}`
  return s.closed ? `${d}Z` : d
}

/** Phases in a teacher's words. */
export const phaseName: Record<Still['phase'], string> = {
  rest: 'at rest',
  closure: 'shut',
  release: 'let go',
  friction: 'let go, it hisses',
  hold: 'held',
  start: 'starts',
  end: 'ends',
}
