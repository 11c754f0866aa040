import type { OrderStep } from './api'

/** Puts the picked ids, in their order, where another one stands; the one that is dragged leads. */
export function moveTo(ids: readonly string[], picked: ReadonlySet<string>, over: string): string[] {
  if (picked.has(over)) return [...ids]
  const block = ids.filter((id) => picked.has(id))
  const rest = ids.filter((id) => !picked.has(id))
  const first = block[0]
  if (first === undefined) return [...ids]
  const at = rest.indexOf(over) + (ids.indexOf(over) > ids.indexOf(first) ? 1 : 0)
  return [...rest.slice(0, at), ...block, ...rest.slice(at)]
}

/** Moves the picked ids, as one block, so many places on; they stop at the ends. */
export function moveBy(ids: readonly string[], picked: ReadonlySet<string>, by: number): string[] {
  const block = ids.filter((id) => picked.has(id))
  const rest = ids.filter((id) => !picked.has(id))
  const first = block[0]
  if (first === undefined) return [...ids]
  const before = ids.slice(0, ids.indexOf(first)).filter((id) => !picked.has(id)).length
  const at = Math.max(0, Math.min(rest.length, before + by))
  return [...rest.slice(0, at), ...block, ...rest.slice(at)]
}

/** All ids between two, both among them. */
export function range(ids: readonly string[], a: string, b: string): string[] {
  const [from, to] = [ids.indexOf(a), ids.indexOf(b)].sort((x, y) => x - y)
  return from === undefined || to === undefined || from < 0 ? [] : ids.slice(from, to + 1)
}

export function ledges<T>(list: readonly T[], size: number): T[][] {
  const out: T[][] = []
  for (let i = 0; i < list.length; i += size) out.push(list.slice(i, i + size))
  return out
}

/** An order that holds each card of the library once, made from one that may be older than the library. */
export function fitted(ids: readonly string[], library: readonly string[]): string[] {
  const there = new Set(library)
  const kept = ids.filter((id) => there.has(id))
  const has = new Set(kept)
  return [...kept, ...library.filter((id) => !has.has(id))]
}

/** The worst of what lies close to a step, in a word; nothing where nothing is too close. */
export function clashWord(step: OrderStep): string {
  const close = step.clashes.filter((c) => c.close)
  const mixed = close.find((c) => c.by === 'eye' || c.by === 'ear' || c.by === 'eye and ear') ?? close[0]
  if (!mixed) return ''
  return `${mixed.pair.grapheme} near`
}

/** Whether a step is mixed up with one that is too close, rather than only kin to it. */
export const isMixed = (step: OrderStep) => step.clashes.some((c) => c.close && c.by !== 'sound' && c.by !== 'spelling')

export const percent = (before: number, after: number) =>
  before === 0 ? 0 : Math.round(((after - before) / before) * 1000) / 10

/** Points of a curve in a box of a width and a height, the most at its top. */
export const curve = (values: readonly number[], most: number, width: number, height: number) =>
  values
    .map(
      (n, i) =>
        `${((i / Math.max(1, values.length - 1)) * width).toFixed(1)},${(height - (n / most) * height).toFixed(1)}`,
    )
    .join(' ')
