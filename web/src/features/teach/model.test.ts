import { describe, expect, it } from 'vitest'
import type { Choice, Face, Lesson, Step } from '../../api/client'
import { jump, plannedUntil, screens } from './model'

const face = (id: string): Face => ({
  id,
  version: 1,
  pair: { grapheme: id, sound: id },
  keyword: '',
  picture: '',
  picture_alt: '',
  rhyme: '',
  rhyme_short: '',
  action: '',
  has_take: false,
})
const choice = (value: string, basket?: Choice['basket'], kind: Choice['kind'] = 'word'): Choice => ({
  slot: value,
  kind,
  value,
  ...(basket ? { basket } : {}),
  because: '',
  locked: false,
  next: [],
})
const step = (kind: string, part: Partial<Step> = {}): Step => ({
  kind,
  name: kind,
  family: 'eye',
  seconds: 60,
  adult: ['Say it.'],
  class: ['Says it.'],
  table: [],
  cautions: [],
  choices: [],
  ...part,
})
const lesson = (steps: Step[]): Lesson => ({
  card_id: 'm',
  card_version: 1,
  agreed: true,
  pair: { grapheme: 'm', sound: 'm' },
  keyword: '',
  routine: '',
  minutes: 10,
  seconds: steps.reduce((s, x) => s + x.seconds, 0),
  seed: 1,
  steps,
  dropped: [],
  notes: [],
  cards: { m: face('m'), s: face('s') },
  word_bits: { mat: [{ letters: [0], sound: 'm' }] },
  taught: [],
  known: [],
  rings: [],
  line_height_mm: 8,
})

describe('screens', () => {
  const list = screens(
    lesson([
      step('warm-up', {
        deck: [
          { card_id: 's', side: 'letter' },
          { card_id: 'gone', side: 'letter' },
        ],
      }),
      step('listen'),
      step('ear', { choices: [choice('map', 'has', 'picture'), choice('sun', 'has-not', 'picture')] }),
      step('read', { choices: [choice('mat')] }),
      step('spell', { choices: [choice('mat')] }),
      step('sentence', { choices: [choice('A mat.', undefined, 'sentence')] }),
      step('hand'),
    ]),
  )

  it('shows one thing at a time and leaves out what is not there', () => {
    expect(list.map((s) => s.show.kind)).toEqual([
      'letter',
      'say',
      'sort',
      'sort',
      'word',
      'word',
      'sentence',
      'letter',
    ])
  })

  it('hides the word where the class spells and bridges where it reads', () => {
    const words = list.filter((s) => s.show.kind === 'word')
    expect(words.map((s) => s.turn)).toEqual(['bridges', 'answer'])
  })

  it('plays the four quarters on one screen, and the pieces before the sentence', () => {
    const quarter = (value: string, basket: Choice['basket']) => ({
      ...choice(value, basket, 'picture'),
      slot: `ear-quarter.${value}`,
    })
    const more = screens(
      lesson([
        step('ear', { choices: [choice('map', 'has', 'picture'), quarter('mop', 'first'), quarter('ham', 'last')] }),
        step('sentence', {
          choices: [choice('A man has a mat.', undefined, 'sentence')],
          pieces: ['has', 'A man', 'a mat.'],
        }),
        step('page', { choices: [choice('A man. A mat.', undefined, 'page')] }),
      ]),
    )
    expect(more.map((s) => s.show.kind)).toEqual(['sort', 'quarters', 'pieces', 'sentence', 'page'])
    expect(more[1]?.show).toEqual({
      kind: 'quarters',
      pictures: [
        { word: 'mop', first: true },
        { word: 'ham', first: false },
      ],
    })
  })

  it('writes the letter in the air: over the picture first, then small, then the capital', () => {
    const form = { text: 'm', strokes: [], lines: [], left: 0, right: 1, group: false, underline: 0 }
    const m = { ...face('m'), picture: 'x' }
    const l = {
      ...lesson([step('hand')]),
      writing: form,
      capital: { ...form, text: 'M' },
      place: { x: 0.1, y: 0.8, size: 0.3 },
    }
    const air = screens({ ...l, cards: { m } })
    expect(air.map((s) => [s.show.kind, s.turn])).toEqual([
      ['over', 'nothing'],
      ['write', 'mirror'],
      ['write', 'mirror'],
    ])
    expect(screens(l).map((s) => s.show.kind)).toEqual(['write', 'write']) // without a picture there is nothing to lie over
  })

  it('paces by the plan', () => {
    const l = lesson([
      step('ear', { choices: [choice('a', 'has', 'picture'), choice('b', 'has-not', 'picture')] }),
      step('hand'),
    ])
    const s = screens(l)
    expect(s.map((_, i) => plannedUntil(l, s, i))).toEqual([30, 60, 120])
    expect(plannedUntil(l, s, 99)).toBe(120)
  })

  it('jumps by steps and stays at the ends', () => {
    expect(jump(list, 0, 1)).toBe(1)
    expect(jump(list, 2, 1)).toBe(4)
    expect(jump(list, 3, -1)).toBe(2)
    expect(jump(list, 0, -1)).toBe(0)
    expect(jump(list, list.length - 1, 1)).toBe(list.length - 1)
  })

  it('sorts by turns in an order that is the same each time', () => {
    const many = ['map', 'mug', 'milk', 'sun', 'sock', 'seal'].map((w) =>
      choice(w, w.startsWith('m') ? 'has' : 'has-not', 'picture'),
    )
    const order = (c: Choice[]) =>
      screens(lesson([step('ear', { choices: c })])).map((s) => (s.show.kind === 'sort' ? s.show.word : ''))
    expect(order(many)).toEqual(order([...many].reverse()))
    expect(order(many)).not.toEqual(many.map((c) => c.value))
  })
})
