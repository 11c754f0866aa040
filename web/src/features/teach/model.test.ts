import { describe, expect, it } from 'vitest'
import type { Face, Item, Lesson, LessonView, Step, StepKind } from '../../api/client'
import { bodyOf, draftOf, shownUntil } from './log'
import { jump, layouts, screens as made } from './model'
import { along, leftBehind, plannedUntil, rest } from './pace'

const face = (id: string): Face => ({
  id,
  version: 1,
  agreed: true,
  said: id,
  pair: { grapheme: id, sound: id },
  keyword: '',
  picture: '',
  picture_alt: '',
  rhyme: '',
  rhyme_short: '',
  action: '',
  has_take: false,
})
const choice = (value: string, basket?: Item['basket'], kind: Item['kind'] = 'word'): Item => ({
  slot: value,
  kind,
  value,
  ...(basket ? { basket } : {}),
  because: { code: '', text: '' },
  locked: false,
  next: [],
})
const shows = {
  'warm-up': 'deck',
  listen: 'sound',
  ear: 'sort',
  read: 'word',
  spell: 'hidden',
  blend: 'hidden',
  sentence: 'sentence',
  hand: 'writing',
  picture: 'card',
  letter: 'card',
  close: 'card',
  page: 'page',
  turnover: 'deck',
  contrast: 'sort',
  'hear-find': 'set',
  capitals: 'set',
  'quick-write': 'hidden',
  free: 'text',
} as const
const how = layouts(Object.entries(shows).map(([kind, shows]) => ({ kind, shows }) as StepKind))
const screens = (l: Lesson) => made(l, how)
const step = (kind: string, part: Partial<Step> = {}): Step => ({
  id: kind,
  kind,
  name: kind,
  family: 'eye',
  seconds: 60,
  adult: ['Say it.'],
  class: ['Says it.'],
  table: [],
  cautions: [],
  items: [],
  ...part,
})
const lesson = (steps: Step[]): Lesson => ({
  purpose: 'introduce',
  targets: ['m'],
  routine: '',
  minutes: 10,
  seconds: steps.reduce((s, x) => s + x.seconds, 0),
  seed: 1,
  steps,
  dropped: [],
  notes: [],
  cards: { m: face('m'), s: face('s') },
  word_bits: { mat: [{ letters: [0], grapheme: 'm', sound: 'm' }] },
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
      step('ear', { items: [choice('map', 'has', 'picture'), choice('sun', 'has-not', 'picture')] }),
      step('read', { items: [choice('mat')] }),
      step('spell', { items: [choice('mat')] }),
      step('sentence', { items: [choice('A mat.', undefined, 'sentence')] }),
      step('hand'),
    ]),
  )

  it('shows one thing at a time and leaves out what is not there', () => {
    expect(list.map((s) => s.show.kind)).toEqual([
      'letter',
      'wave',
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
    const quarter = (value: string, basket: Item['basket']) => ({
      ...choice(value, basket, 'picture'),
      slot: `ear-quarter.${value}`,
    })
    const more = screens(
      lesson([
        step('ear', { items: [choice('map', 'has', 'picture'), quarter('mop', 'first'), quarter('ham', 'last')] }),
        step('sentence', {
          items: [choice('A man has a mat.', undefined, 'sentence')],
          pieces: ['has', 'A man', 'a mat.'],
        }),
        step('page', { items: [choice('A man. A mat.', undefined, 'page')] }),
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
    const plain = { ...face('m'), writing: form, capital: { ...form, text: 'M' }, place: { x: 0.1, y: 0.8, size: 0.3 } }
    const m = { ...plain, picture: 'x' }
    const l = { ...lesson([step('hand')]), cards: { m: plain } }
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
      step('ear', { items: [choice('a', 'has', 'picture'), choice('b', 'has-not', 'picture')] }),
      step('hand'),
    ])
    const s = screens(l)
    const asPlanned = { skipped: new Set<string>(), more: new Map<string, number>() }
    const plan = (state = asPlanned) => s.map((_, i) => plannedUntil(l, s, i, state))
    expect(plan()).toEqual([30, 60, 120])
    expect(plannedUntil(l, s, 99, asPlanned)).toBe(120)
    expect(plan({ ...asPlanned, more: new Map([['ear', 120]]) })).toEqual([90, 180, 240])
    expect(plan({ ...asPlanned, skipped: new Set(['ear']) })).toEqual([0, 0, 60])
    expect(along(l, s, 0, 1, new Set(['hand']))).toBe(1)
    expect(along(l, s, 1, 1, new Set(['hand']))).toBe(3) // the end: what is left out is passed over
    expect(along(l, s, 2, -1, new Set(['ear']))).toBe(2)
  })

  it('times a step when it is left, also one that is gone back to', () => {
    const l = lesson(['listen', 'read', 'spell'].map((k) => step(k)))
    const s = screens(l)
    const fresh = { since: 0, took: new Map<string, number>() }
    expect(leftBehind(l, s, fresh, 0, 1, 42.4)).toEqual({ since: 42.4, 'took.listen': 42 })
    expect(leftBehind(l, s, { since: 90, took: new Map([['read', 30]]) }, 1, 2, 100)).toEqual({
      since: 100,
      'took.read': 40,
    })
    expect(leftBehind(l, s, fresh, 1, 1, 10)).toEqual({}) // a screen of the same step
    expect(leftBehind(l, s, fresh, s.length - 1, s.length, 60)).toEqual({ since: 60, 'took.spell': 60 })
    expect(leftBehind(l, s, fresh, s.length, 0, 70)).toEqual({}) // after the end no step is held
    const draft = { on: '', note: '', skipped: [], sure: {} }
    const took = new Map([
      ['listen', 42],
      ['read', 0],
      ['spell', 90_000],
    ])
    expect(bodyOf(draft, 'spell', took).took).toEqual([{ step_id: 'listen', seconds: 42 }])
    expect(bodyOf(draft, 'spell').took).toEqual([])
  })

  it('says what falls out of the rest: what matters least, and never what is held now', () => {
    const l = { ...lesson(['listen', 'read', 'spell', 'sentence', 'close'].map((k) => step(k))), minutes: 5 }
    const s = screens(l)
    const ranks = new Map([
      ['listen', 10],
      ['read', 90],
      ['spell', 60],
      ['sentence', 30],
      ['close', 40],
    ])
    const state = { skipped: new Set<string>(), more: new Map<string, number>() }
    expect(rest(l, s, 0, state, 0, ranks)).toEqual({ over: 0, out: [] })
    expect(rest(l, s, 0, state, 40, ranks).out).toEqual([]) // so little runs over
    expect(rest(l, s, 1, state, 160, ranks)).toEqual({ over: 100, out: ['sentence'] })
    expect(rest(l, s, 1, state, 220, ranks)).toEqual({ over: 160, out: ['sentence', 'close'] })
    expect(rest(l, s, 1, { ...state, more: new Map([['read', 120]]) }, 60, ranks).out).toEqual(['sentence', 'close'])
    expect(rest(l, s, 1, { ...state, skipped: new Set(['spell']) }, 160, ranks).out).toEqual([])
    expect(rest(l, s, 4, state, 900, ranks).out).toEqual([])
  })

  it('logs what was shown: untouched is sure, or secure where it was sure for long', () => {
    const l = lesson([
      step('warm-up', { deck: [{ card_id: 's', side: 'letter' }] }),
      step('letter'),
      step('mix-in', { deck: [{ card_id: 't', side: 'letter' }] }),
    ])
    const withAll = { ...l, cards: { ...l.cards, t: face('t') } }
    const s = made(
      withAll,
      layouts([...Object.entries(shows), ['mix-in', 'deck']].map(([kind, shows]) => ({ kind, shows }) as StepKind)),
    )
    const shown = shownUntil(withAll, s, 1, new Set())
    expect([...shown]).toEqual(['s', 'm'])
    expect([...shownUntil(withAll, s, 2, new Set(['warm-up']))]).toEqual(['m', 't'])
    const items = ['s', 't'].map((id) => choice(id, undefined, 'card'))
    const view = { lesson: { ...withAll, steps: [step('warm-up', { items })] }, sure: [], untouched: { s: 3 } }
    const draft = draftOf(view as unknown as LessonView, new Map(), {
      shown,
      unsure: new Map([['m', 1]]),
      skipped: new Set(['x']),
    })
    expect(draft.sure).toEqual({ m: { sure: 1 }, s: { sure: 3 } })
    expect(draft.skipped).toEqual(['x'])
  })

  it('jumps by steps, stays at the beginning and ends after the last', () => {
    expect(jump(list, 0, 1)).toBe(1)
    expect(jump(list, 2, 1)).toBe(4)
    expect(jump(list, 3, -1)).toBe(2)
    expect(jump(list, 0, -1)).toBe(0)
    expect(jump(list, list.length - 1, 1)).toBe(list.length)
  })

  it('sorts by turns in an order that is the same each time', () => {
    const many = ['map', 'mug', 'milk', 'sun', 'sock', 'seal'].map((w) =>
      choice(w, w.startsWith('m') ? 'has' : 'has-not', 'picture'),
    )
    const order = (c: Item[]) =>
      screens(lesson([step('ear', { items: c })])).map((s) => (s.show.kind === 'sort' ? s.show.now.word : ''))
    expect(order(many)).toEqual(order([...many].reverse()))
    expect(order(many)).not.toEqual(many.map((c) => c.value))
  })

  it('shows a set to find in, and turns up what was asked', () => {
    const cards = ['m', 's', 'm'].map((id) => ({ ...choice(id, undefined, 'card') }))
    const found = screens(lesson([step('hear-find', { items: cards })]))
    expect(found.map((s) => (s.show.kind === 'set' ? s.show.asked : ''))).toEqual(['m', 's', 'm'])
    expect(found[0]?.show.kind === 'set' && found[0].show.faces.map((f) => f.id)).toEqual(['m', 's'])
    const capitals = screens(lesson([step('capitals', { items: cards.slice(0, 1) })]))
    expect(capitals[0]?.show.kind === 'set' && capitals[0].show.capitals).toBe(true)
    const dictated = screens(lesson([step('quick-write', { items: cards })]))
    expect(dictated.map((s) => s.show.kind)).toEqual(['hidden', 'hidden', 'hidden'])
  })

  it('hides a heard word and keeps the order of a contrast', () => {
    const words = ['thin', 'this', 'that'].map((w) => ({ ...choice(w, 'has'), detail: '/θ/ th' }))
    const heard = screens(lesson([step('contrast', { items: words })]))
    expect(
      heard.map((s) => (s.show.kind === 'sort' && s.show.now.heard ? `${s.show.now.word} ${s.show.now.side}` : '')),
    ).toEqual(['thin /θ/ th', 'this /θ/ th', 'that /θ/ th'])
  })
})

it('says who speaks, shows a picture once before its word, goes through a list as often as it says', () => {
  const items = ['ship', 'shop', 'dish'].map((w) => choice(w))
  const [ship] = items
  if (ship) Object.assign(ship, { voice: 'both', picture: true })
  const l = { targets: [], cards: {}, word_bits: {}, seconds: 60, steps: [step('read', { items, times: 3 })] }
  const list = screens(l as unknown as Lesson)
  const kinds = list.map((s) => s.show.kind)
  expect(kinds).toEqual(['drawing', ...Array.from({ length: 9 }, () => 'word')])
  expect(list.filter((s) => s.voice === 'both')).toHaveLength(3)
  const words = list.flatMap((s) => (s.show.kind === 'word' ? [s.show.word] : []))
  expect(words.some((w, i) => w === words[i - 1])).toBe(false)
})
