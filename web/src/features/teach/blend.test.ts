import { describe, expect, it } from 'vitest'
import { blend, gaps, nextGap, type Voice } from './blend'

const rate = 44_100
const tone = (hz: number, seconds: number, held: boolean, silence = 0.15): Voice => {
  const n = Math.round(seconds * rate)
  const pad = Math.round(silence * rate)
  const samples = new Float32Array(n + 2 * pad)
  for (let i = 0; i < n; i++) samples[pad + i] = 0.5 * Math.sin((2 * Math.PI * hz * i) / rate)
  return { samples, held }
}
const word = [tone(180, 1.4, true), tone(120, 0.12, false), tone(210, 0.9, true), tone(160, 0.8, true)]

/** Runs of near silence inside, in ms. */
function silences(samples: Float32Array): number[] {
  const out: number[] = []
  let run = 0
  for (const v of samples) {
    if (Math.abs(v) < 0.002) run++
    else {
      if (run > 0.02 * rate) out.push((run / rate) * 1000)
      run = 0
    }
  }
  return out
}

describe('recorded sounds, blended', () => {
  it.each(gaps)('has no click: a gap of %i ms', (gap) => {
    const { samples } = blend(word, rate, gap)
    let step = 0
    samples.forEach((v, i) => (step = Math.max(step, Math.abs(v - (samples[i - 1] ?? 0)))))
    expect(step).toBeLessThan(0.03)
    expect(Math.abs(samples[0] ?? 1)).toBeLessThan(0.001)
    expect(Math.abs(samples.at(-1) ?? 1)).toBeLessThan(0.001)
  })
  it.each([700, 400, 200, 80])('keeps a gap of %i ms to 10 ms', (gap) => {
    const found = silences(blend(word, rate, gap).samples)
    expect(found).toHaveLength(word.length - 1)
    for (const g of found) expect(Math.abs(g - gap)).toBeLessThanOrEqual(10)
  })
  it('flows without a gap, and a held sound is shorter then, at the same loudness', () => {
    const { samples, starts } = blend(word, rate, 0)
    expect(silences(samples)).toEqual([])
    expect(starts).toHaveLength(4)
    const first = samples.subarray(0, Math.round((starts[1] ?? 0) * rate))
    expect(first.length / rate).toBeGreaterThan(0.4)
    expect(first.length / rate).toBeLessThan(0.5)
    const middle = first.subarray(Math.round(0.1 * rate), Math.round(0.35 * rate))
    for (let at = 0; at + 882 < middle.length; at += 441) {
      const rms = Math.sqrt(middle.subarray(at, at + 882).reduce((s, v) => s + v * v, 0) / 882)
      expect(rms).toBeGreaterThan(0.3)
    }
  })
  it('comes closer with each press, and begins again', () => {
    expect([null, 700, 400, 200, 80, 0].map(nextGap)).toEqual([700, 400, 200, 80, 0, 700])
  })
})
