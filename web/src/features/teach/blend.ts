/**
 * Recorded sounds one after the other, with a gap that becomes smaller until they flow. Each sound begins and ends at
 * nothing, so that no border clicks; held sounds that meet without a gap flow into each other.
 */
export type Voice = { samples: Float32Array; held: boolean }
export type Blend = { samples: Float32Array; starts: number[] } // seconds at which each sound begins

/** Gaps in milliseconds, each press the next. */
export const gaps = [700, 400, 200, 80, 0] as const

const quiet = 0.02 // of the loudest: what is softer at the ends is no sound
const rise = 0.003 // seconds; a sound that was cut off begins and ends at nothing all the same
const fall = 0.02
const overlap = 0.03
const flowing = 0.45 // seconds that a held sound takes in a word that flows
const heldFor = 1.1 // and at the most while it stands alone

/** The next gap of a word: wide at first, then closer with each press, and round again. */
export const nextGap = (now: number | null): number => {
  const i = gaps.findIndex((g) => g === now)
  return gaps[(i + 1) % gaps.length] ?? gaps[0]
}

export function blend(voices: readonly Voice[], rate: number, gapMs: number): Blend {
  const parts = voices.map((v) => {
    const cut = trimmed(v.samples)
    const most = gapMs <= 80 ? flowing : heldFor
    return { held: v.held, samples: v.held ? shorter(cut, Math.round(most * rate), rate) : cut }
  })
  const gap = Math.round((gapMs / 1000) * rate)
  const over = Math.round(overlap * rate)
  const starts: number[] = []
  let end = 0
  parts.forEach((p, i) => {
    const before = parts[i - 1]
    const flows = gap === 0 && before?.held && p.held && Math.min(before.samples.length, p.samples.length) > 3 * over
    const from = i === 0 ? 0 : end + gap - (flows ? over : 0)
    starts.push(from)
    end = from + p.samples.length
  })
  const out = new Float32Array(end)
  parts.forEach((p, i) => {
    const from = starts[i] ?? 0
    const next = starts[i + 1]
    const before = parts[i - 1]
    const inFlow = before !== undefined && from < (starts[i - 1] ?? 0) + before.samples.length
    const outFlow = next !== undefined && next < from + p.samples.length
    const head = inFlow ? over : Math.min(Math.round(rise * rate), p.samples.length >> 2)
    const tail = outFlow ? over : Math.min(Math.round(fall * rate), p.samples.length >> 2)
    const n = p.samples.length
    for (let k = 0; k < n; k++) {
      const up = k < head ? bend(k / head) : 1
      const down = n - 1 - k < tail ? bend((n - 1 - k) / tail) : 1
      out[from + k] = (out[from + k] ?? 0) + (p.samples[k] ?? 0) * up * down
    }
  })
  return { samples: out, starts: starts.map((s) => s / rate) }
}

const bend = (t: number) => 0.5 - 0.5 * Math.cos(Math.PI * t)

/** A sound without the silence around it. */
function trimmed(samples: Float32Array): Float32Array {
  let peak = 0
  for (const v of samples) peak = Math.max(peak, Math.abs(v))
  const bar = peak * quiet
  let first = 0
  while (first < samples.length && Math.abs(samples[first] ?? 0) <= bar) first++
  let last = samples.length - 1
  while (last > first && Math.abs(samples[last] ?? 0) <= bar) last--
  return samples.slice(first, last + 1)
}

/**
 * A held sound made shorter: its beginning and its end, joined where they are most alike, so that neither the beat of a
 * voice nor the loudness jumps (overlap-add at the best lag: Verhelst and Roelands 1993, "An overlap-add technique
 * based on waveform similarity").
 */
function shorter(samples: Float32Array, want: number, rate: number): Float32Array {
  if (samples.length <= want) return samples
  const over = Math.min(Math.round(0.04 * rate), want >> 2)
  const head = Math.round(want / 2) + over
  const about = samples.length - (want - head) - over
  const reach = Math.min(Math.round(0.012 * rate), over)
  let best = about
  let most = -Infinity
  for (let lag = -reach; lag <= reach; lag += 2) {
    const from = about + lag
    if (from < 0 || from + over > samples.length) continue
    let dot = 0
    let own = 0
    for (let k = 0; k < over; k += 2) {
      const b = samples[from + k] ?? 0
      dot += (samples[head - over + k] ?? 0) * b
      own += b * b
    }
    const alike = dot / Math.sqrt(own + 1e-9)
    if (alike > most) [most, best] = [alike, from]
  }
  const out = new Float32Array(head + samples.length - best - over)
  out.set(samples.subarray(0, head - over))
  for (let k = 0; k < over; k++) {
    const t = bend(k / over)
    out[head - over + k] = (samples[head - over + k] ?? 0) * (1 - t) + (samples[best + k] ?? 0) * t
  }
  out.set(samples.subarray(best + over), head)
  return out
}
