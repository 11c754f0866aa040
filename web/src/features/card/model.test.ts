import { describe, expect, it } from 'vitest'
import type { Content } from '../../api/client'
import { encodeWav, follow, meter, peaks, takeTheirs } from './model'

const content = (part: Partial<Content>): Content => ({ keyword: '', picture: '', picture_alt: '', rhyme: '', rhyme_short: '', action: '', mouth_cue: '', slip: '', contrast: '', stroke_words: '', capital_words: '', materials: '', words: [], rejected: [], sentences: [], exceptions: [], notes: '', ...part })

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

describe('two people on a card', () => {
  it('follows the fields that were not touched here', () => {
    const base = content({ rhyme: 'a', action: 'b' })
    const after = follow(base, content({ rhyme: 'mine', action: 'b' }), content({ rhyme: 'a', action: 'theirs' }))
    expect(after.rhyme).toBe('mine')
    expect(after.action).toBe('theirs')
  })

  it('takes theirs only where both changed', () => {
    const after = takeTheirs(content({ rhyme: 'mine', slip: 'mine' }), content({ rhyme: 'theirs', slip: 'theirs' }), ['rhyme'])
    expect(after.rhyme).toBe('theirs')
    expect(after.slip).toBe('mine')
  })
})
