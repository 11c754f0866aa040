import type { Bit, Schemas } from '../../api/client'

/**
 * A running lesson as its faces see it: a set of marks of which the last setting wins, joined in the same way here and
 * on the server (internal/core/running), so that all faces end alike whatever order the marks come in.
 */
export type Mark = Schemas['RunningMark']
export type Marks = ReadonlyMap<string, Mark>

const later = (a: Mark, b: Mark) => a.n - b.n || compare(a.by, b.by) || compare(a.value, b.value)
const compare = (a: string, b: string) => (a > b ? 1 : a < b ? -1 : 0)

/** What was set last of both; the same map where nothing is new. */
export function join(marks: Marks, more: Iterable<Mark>): Marks {
  let out: Map<string, Mark> | undefined
  for (const m of more) {
    const old = (out ?? marks).get(m.name)
    if (old && later(m, old) <= 0) continue
    out ??= new Map(marks)
    out.set(m.name, m)
  }
  return out ?? marks
}

/** Marks that a face sets now: later than all that it has seen. */
export function stamp(marks: Marks, values: Readonly<Record<string, unknown>>, by: string): Mark[] {
  let n = 0
  for (const m of marks.values()) n = Math.max(n, m.n)
  return Object.entries(values).map(([name, value]) => ({ name, value: JSON.stringify(value), n: n + 1, by }))
}

/** Those that the others do not have. */
export const newer = (mine: Marks, theirs: Marks): Mark[] =>
  [...mine.values()].filter((m) => {
    const other = theirs.get(m.name)
    return !other || later(m, other) > 0
  })

/** A child's own word on the board. */
export type Own = { word: string; bits: Bit[] }

/** Where the board stands: one mark, so that no face ever sees half of it. */
export type Place = {
  screen: number
  turned: boolean
  shown: number | null // letters or pieces that came one by one; null: all
  open: string // card that a press on a bridge opened; empty: none
  own: Own | null
}

export type Clock = { seconds: number; runs: boolean; at: number } // at: milliseconds by the server's clock
/** What sounds: one card's take, or a word from the takes of its parts, with a gap in ms between them. */
export type Play = { n: number; card: string; gap: number | null; word?: string }

export type State = {
  place: Place
  play: Play
  clock: Clock
  strip: boolean
  ended: boolean
  unsure: ReadonlyMap<string, 0 | 1> // by card: not yet, shaky; what is not here is sure
  skipped: ReadonlySet<string> // steps
  more: ReadonlyMap<string, number> // seconds by step
  since: number // seconds of the lesson at which the present step began
  took: ReadonlyMap<string, number> // seconds by step, of those that were held to their end
  orders: ReadonlyMap<string, number[]> // of pieces, by screen
  sides: ReadonlyMap<string, string> // of pictures, by screen and word
}

export const start: Place = { screen: 0, turned: false, shown: null, open: '', own: null }

function valueOf<T>(marks: Marks, name: string, otherwise: T): T {
  try {
    const m = marks.get(name)
    return m ? (JSON.parse(m.value) as T) : otherwise
  } catch {
    return otherwise
  }
}

/** The marks whose name begins with a word and a dot, by what comes after; null takes one back. */
function family<T>(marks: Marks, word: string): Map<string, T> {
  const out = new Map<string, T>()
  for (const name of marks.keys()) {
    if (!name.startsWith(`${word}.`)) continue
    const v = valueOf<T | null>(marks, name, null)
    if (v !== null) out.set(name.slice(word.length + 1), v)
  }
  return out
}

export const stateOf = (marks: Marks): State => ({
  place: { ...start, ...valueOf<Partial<Place>>(marks, 'at', {}) },
  play: valueOf<Play>(marks, 'played', { n: 0, card: '', gap: null }),
  clock: valueOf<Clock>(marks, 'clock', { seconds: 0, runs: false, at: 0 }),
  strip: valueOf(marks, 'strip', true),
  ended: valueOf(marks, 'ended', false),
  unsure: family<0 | 1>(marks, 'sure'),
  skipped: new Set([...family<boolean>(marks, 'skip')].filter(([, v]) => v).map(([k]) => k)),
  more: family<number>(marks, 'more'),
  since: valueOf(marks, 'since', 0),
  took: family<number>(marks, 'took'),
  orders: family<number[]>(marks, 'order'),
  sides: family<string>(marks, 'side'),
})

const longestPause = 15 * 60_000

/** Seconds of the lesson so far. A clock that nobody stopped and nobody touched for long has stood since. */
export function secondsOf(clock: Clock, now: number): number {
  const since = now - clock.at
  return clock.seconds + (clock.runs && since > 0 && since < longestPause ? since / 1000 : 0)
}

/** What begins a lesson anew: every mark that is known, taken back. */
export function anew(marks: Marks, now: number): Record<string, unknown> {
  const out: Record<string, unknown> = {}
  for (const name of marks.keys()) if (name.includes('.')) out[name] = null
  return { ...out, at: start, clock: { seconds: 0, runs: true, at: now }, ended: false, since: 0 }
}

/** The next level of a card at a tap: sure, shaky, not yet, sure again. */
export const tapped = (now: 0 | 1 | undefined): 0 | 1 | null => (now === undefined ? 1 : now === 1 ? 0 : null)

/** The name under which it is kept where a picture of a step was put. */
export const sideKey = (step: number, word: string) => `${step}:${word.replace(/[^A-Za-z0-9-]/g, '_')}`
