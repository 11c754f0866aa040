import type { Schemas, Take } from '../../api/client'

export type Shelf = Schemas['Shelf']
export type ShelfSound = Schemas['ShelfSound']

/** 16-bit mono PCM in a WAV file. */
export function encodeWav(blocks: readonly Float32Array[], hertz: number): ArrayBuffer {
  const n = blocks.reduce((sum, b) => sum + b.length, 0)
  const buffer = new ArrayBuffer(44 + 2 * n)
  const view = new DataView(buffer)
  const text = (at: number, s: string) => [...s].forEach((c, i) => view.setUint8(at + i, c.charCodeAt(0)))
  text(0, 'RIFF')
  view.setUint32(4, 36 + 2 * n, true)
  text(8, 'WAVEfmt ')
  view.setUint32(16, 16, true)
  view.setUint16(20, 1, true)
  view.setUint16(22, 1, true)
  view.setUint32(24, hertz, true)
  view.setUint32(28, 2 * hertz, true)
  view.setUint16(32, 2, true)
  view.setUint16(34, 16, true)
  text(36, 'data')
  view.setUint32(40, 2 * n, true)
  let at = 44
  for (const b of blocks)
    for (const v of b) {
      view.setInt16(at, Math.round(Math.max(-1, Math.min(1, v)) * 32767), true)
      at += 2
    }
  return buffer
}

/** The highest and lowest sample of each of n stretches, for drawing. */
export function peaks(samples: Float32Array, n: number): [number, number][] {
  const out: [number, number][] = []
  const width = samples.length / n
  for (let i = 0; i < n; i++) {
    let low = 0
    let high = 0
    for (let k = Math.floor(i * width); k < Math.min(samples.length, Math.floor((i + 1) * width)); k++) {
      const v = samples[k] ?? 0
      if (v < low) low = v
      if (v > high) high = v
    }
    out.push([low, high])
  }
  return out
}

/** Loudness of a block as a share of the meter, 0 to 1, over 60 dB. */
export function meter(block: Float32Array): number {
  let sum = 0
  for (const v of block) sum += v * v
  const db = 10 * Math.log10(sum / Math.max(1, block.length) + 1e-12)
  return Math.max(0, Math.min(1, (db + 60) / 60))
}

/** Where on the meter a voice should be, and what to do where it is not. */
export const meterGood: [number, number] = [0.45, 0.85]
export const meterWord = (level: number) =>
  level > meterGood[1]
    ? 'too loud: go back a little'
    : level > meterGood[0]
      ? 'good'
      : level > 0.25
        ? 'soft: come nearer'
        : 'quiet'

export type Verdict = 'pure' | 'fix' | 'retake'

export const verdictWords: Record<Verdict, { mark: string; text: string }> = {
  pure: { mark: '✓', text: 'Pure' },
  fix: { mark: '~', text: 'Good after a small fix' },
  retake: { mark: '×', text: 'Say it again' },
}

/** The cards without a sound, in the order of teaching. */
export const missing = (shelf: Shelf): ShelfSound[] => shelf.cards.filter((c) => !c.take_id)

/** The next card without a sound after this one, round to the first; undefined where none is left. */
export function nextMissing(shelf: Shelf, cardId: string, step: 1 | -1 = 1): string | undefined {
  const all = shelf.cards
  const at = all.findIndex((c) => c.card_id === cardId)
  for (let i = 1; i <= all.length; i++) {
    const c = all[(at + step * i + all.length * 2) % all.length]
    if (c && !c.take_id && c.card_id !== cardId) return c.card_id
  }
  return undefined
}

/** A part of a take that a finding marks. */
export type Bit = { code: string; from_ms: number; to_ms: number; sure?: number | undefined }

/** How much must be left of a sound when its end is cut off, in milliseconds. */
export const leastLeft = 120

export const bitsOf = (take: Take): Bit[] =>
  take.report.findings.flatMap((f) =>
    f.to_ms ? [{ code: f.code, from_ms: f.from_ms ?? 0, to_ms: f.to_ms, sure: f.sure }] : [],
  )

/** The rate that takes are decoded at in the browser. */
export const decodedHertz = 44_100
