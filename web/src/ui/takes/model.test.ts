import { describe, expect, it } from 'vitest'
import { encodeWav, meter, missing, nextMissing, peaks, type Shelf } from './model'

describe('sound', () => {
  it('writes a WAV file that says what it holds', () => {
    const view = new DataView(encodeWav([new Float32Array([0, 1, -1]), new Float32Array([2])], 44100))
    expect(view.byteLength).toBe(44 + 8)
    expect(view.getUint32(24, true)).toBe(44100)
    expect([0, 2, 4, 6].map((i) => view.getInt16(44 + i, true))).toEqual([0, 32767, -32767, 32767])
  })

  it('draws peaks and meters loudness', () => {
    const wave = Float32Array.from({ length: 1000 }, (_, i) => (i < 500 ? 0 : i % 2 ? 0.5 : -0.5))
    const p = peaks(wave, 10)
    expect(p[0]).toEqual([0, 0])
    expect(p[9]).toEqual([-0.5, 0.5])
    expect(meter(new Float32Array(128))).toBe(0)
    expect(meter(new Float32Array(128).fill(1))).toBeCloseTo(1, 5)
  })
})

describe('the round of missing sounds', () => {
  const shelf = {
    cards: ['a', 'b', 'c', 'd'].map((card_id) => ({ card_id, take_id: card_id === 'b' ? 'x' : '' })),
  } as unknown as Shelf
  it('lists those without a take in order', () => {
    expect(missing(shelf).map((c) => c.card_id)).toEqual(['a', 'c', 'd'])
  })
  it('goes on to the next one that lacks a take, and round', () => {
    expect(nextMissing(shelf, 'a')).toBe('c')
    expect(nextMissing(shelf, 'd')).toBe('a')
    expect(nextMissing(shelf, 'a', -1)).toBe('d')
    expect(nextMissing({ cards: [{ card_id: 'a', take_id: '' }] } as unknown as Shelf, 'a')).toBeUndefined()
  })
})
