import type { Bit, Face, Item, Lesson, Step, StepKind } from '../../api/client'
import type { Written } from '../../ui/Writing'
import type { Sorted } from './SortBoard'

/** One thing on the projector. */
export type Screen = {
  step: number
  adult: string
  class: string
  /** Who speaks, where the lesson says so. */
  voice?: Item['voice']
  /** What the class does from here on, where the pack turned its side. */
  task?: { side: 'letter' | 'picture'; text: string }
  show:
    | { kind: 'letter'; face: Face; card: boolean } // card: it has a back, and turns like one
    | { kind: 'write'; face: Face; written: Written }
    | { kind: 'over'; face: Face; written: Written; place: NonNullable<Face['place']> }
    | { kind: 'picture'; face: Face; card: boolean }
    | { kind: 'set'; faces: Face[]; asked: string; capitals: boolean }
    | { kind: 'hidden'; face: Face }
    | { kind: 'drawing'; word: string }
    | { kind: 'word'; word: string; bits: Bit[]; hidden: 'sounds' | 'none'; reminders: Face[] }
    | { kind: 'sort'; now: Sorted; all: Sorted[]; names: string[] }
    | { kind: 'quarters'; pictures: { word: string; first: boolean }[] }
    | { kind: 'sentence'; text: string }
    | { kind: 'pieces'; pieces: string[]; text: string }
    | { kind: 'page'; text: string }
    | { kind: 'text'; text: string }
    | { kind: 'mouth'; face: Face }
    | { kind: 'wave'; face: Face }
    | { kind: 'sign'; family: Step['family']; name: string }
  /** What Enter turns up: the other side, the answer, the bridges. */
  turn: 'answer' | 'bridges' | 'side' | 'mirror' | 'nothing'
}

type View = Pick<Screen, 'show' | 'turn' | 'voice' | 'task'>
type Layouts = ReadonlyMap<string, StepKind['shows']>

const first = (lines: string[] | null) => lines?.[0] ?? ''

/** How each kind of step is shown, from the registry. */
export const layouts = (kinds: readonly StepKind[]): Layouts => new Map(kinds.map((k) => [k.kind, k.shows]))

/** The screens of a lesson in order; each step has at least one. */
export function screens(lesson: Lesson, how: Layouts): Screen[] {
  const out: Screen[] = []
  lesson.steps.forEach((step, index) => {
    const lines = { step: index, adult: step.adult.join(' '), class: first(step.class) }
    const views = ofStep(step, lesson, how.get(step.kind) ?? 'text')
    for (const s of views.length ? views : [sign(step)])
      out.push({
        ...lines,
        ...s,
        adult: [s.task?.text, heardIn(s), lines.adult].filter(Boolean).join(' '),
      })
  })
  return out
}

/** What the adult says that the board does not show. */
const heardIn = (s: View) => (s.show.kind === 'sort' && s.show.now.heard ? `Say “${s.show.now.word}”.` : '')

const sign = (step: Step): View => ({ show: { kind: 'sign', family: step.family, name: step.name }, turn: 'nothing' })

const faceOf = (lesson: Lesson, id: string): Face[] => {
  const f = lesson.cards[id]
  return f ? [f] : []
}

function ofStep(step: Step, lesson: Lesson, shows: string): View[] {
  const faces = lesson.targets.flatMap((id) => faceOf(lesson, id))
  switch (shows) {
    case 'deck':
      return (step.deck ?? []).flatMap((d, i, deck) =>
        faceOf(lesson, d.card_id).map((face): View => {
          const turns = deck[i - 1]?.side !== d.side && deck.some((k) => k.side !== d.side)
          const task = { side: d.side, text: tasks[d.side] }
          return { show: { kind: d.side, face, card: true }, turn: 'side', ...(turns ? { task } : {}) }
        }),
      )
    case 'set':
      return setOf(step, lesson)
    case 'sort':
      return sorted(step)
    case 'hidden':
      return step.items.flatMap((c): View[] =>
        c.kind === 'card'
          ? faceOf(lesson, c.value).map((face) => ({ show: { kind: 'hidden', face }, turn: 'answer' }))
          : [word(c, lesson, 'sounds', step.kind === 'spell' ? vowels(lesson) : [])],
      )
    case 'word': {
      // Read goes through its words a second time, in another order and quicker.
      const times = step.kind === 'read' && step.items.length > 2 ? (step.times ?? 2) : 1
      return passes(step.items, times).flatMap((list, pass) =>
        list.flatMap((c): View[] => [
          ...(c.picture && pass === 0
            ? [{ show: { kind: 'drawing' as const, word: c.value }, turn: 'nothing' as const }]
            : []),
          word(c, lesson, 'none'),
        ]),
      )
    }
    case 'sentence':
      return step.items.flatMap((c, i): View[] => {
        const whole: View = { show: { kind: 'sentence', text: c.value }, turn: 'bridges' }
        return i === 0 && step.pieces?.length
          ? [{ show: { kind: 'pieces', pieces: step.pieces, text: c.value }, turn: 'answer' }, whole]
          : [whole]
      })
    case 'page':
      return step.items
        .filter((c) => c.kind !== 'question')
        .map((c) => ({ show: { kind: 'page', text: c.value }, turn: 'bridges' }))
    case 'text':
      return step.items.map((c) => ({ show: { kind: 'text', text: c.value }, turn: 'nothing' }))
    case 'mouth':
      return once(faces).map((face) => ({ show: { kind: 'mouth', face }, turn: 'nothing' }))
    case 'sound':
      return once(faces).map((face) => ({ show: { kind: 'wave', face }, turn: 'nothing' }))
    case 'card':
      return faces.map((face) => ({
        show: { kind: step.kind === 'picture' || step.kind === 'look' ? 'picture' : 'letter', face, card: true },
        turn: 'side',
      }))
    case 'writing':
      return faces.flatMap(writing)
  }
  return []
}

/** One face to a sound: spellings of the same sound have the same mouth. */
const once = (faces: readonly Face[]) =>
  faces.filter((f, i) => faces.findIndex((g) => g.pair.sound === f.pair.sound) === i)

const word = (c: Item, lesson: Lesson, hidden: 'sounds' | 'none', reminders: Face[] = []): View => ({
  ...(c.voice ? { voice: c.voice } : {}),
  show: {
    kind: 'word',
    word: c.value,
    bits: lesson.word_bits[c.value] ?? [],
    hidden,
    reminders,
  },
  turn: hidden === 'sounds' ? 'answer' : 'bridges',
})

/** The faces of the single vowel letters that the class knows, in the order of the alphabet. */
const vowels = (lesson: Lesson) =>
  Object.values(lesson.cards)
    .filter((f) => 'aeiou'.includes(f.pair.grapheme) && f.pair.sound.length === 1)
    .sort((a, b) => (a.pair.grapheme < b.pair.grapheme ? -1 : 1))

/** A list so often, each time in another order that does not begin with what was last. */
function passes<T extends { value: string }>(list: readonly T[], times: number): T[][] {
  const out = [[...list]]
  while (out.length < times) {
    const order = out.length % 2 ? mixed(list) : mixed(list).reverse()
    const last = out.at(-1)?.at(-1)?.value
    out.push(order[0]?.value === last ? [...order.slice(1), ...order.slice(0, 1)] : order)
  }
  return out
}

/** A set of graphemes, with the one that is asked for; capitals are shown one after the other. */
function setOf(step: Step, lesson: Lesson): View[] {
  const ids = [...new Set(step.items.map((i) => i.value))]
  const faces = ids.flatMap((id) => faceOf(lesson, id))
  const capitals = step.kind === 'capitals'
  return step.items.map((i) => ({
    show: { kind: 'set', faces: capitals ? faceOf(lesson, i.value) : faces, asked: i.value, capitals },
    turn: 'answer',
  }))
}

/** What the class says to each side of a card in the pack. */
const tasks = {
  picture: 'The picture side: say its rhyme.',
  letter: 'The letter side: say its sound.',
} as const

const sides = { has: '✓ yes', 'has-not': '× no', first: 'first', last: 'last' } as const

/** Pictures and heard words with their sides, in the order of the step where that has no pattern already. */
function sorted({ kind, items }: Pick<Step, 'kind' | 'items'>): View[] {
  const quarters = items.filter((c) => c.basket === 'first' || c.basket === 'last')
  const rest = items.filter((c) => !quarters.includes(c))
  const spoken = rest.every((c) => c.kind === 'word')
  const all = (spoken ? rest : mixed(rest)).map((c): Sorted => {
    const side = (kind !== 'contrast' && c.basket && sides[c.basket]) || (c.detail ?? '')
    return { word: c.value, side, heard: c.kind === 'word' }
  })
  const found = [...new Set(all.map((k) => k.side))]
  const names =
    found.includes(sides.has) || found.includes(sides['has-not']) ? [sides.has, sides['has-not']] : found.sort()
  const out = all.map((now): View => ({ show: { kind: 'sort', now, all, names: [...names] }, turn: 'answer' }))
  if (quarters.length > 0)
    out.push({
      show: { kind: 'quarters', pictures: quarters.map((c) => ({ word: c.value, first: c.basket === 'first' })) },
      turn: 'answer',
    })
  return out
}

/** The letter over its picture, then small, then the capital. */
function writing(face: Face): View[] {
  const forms = [face.writing, face.capital].filter((w): w is Written => Boolean(w))
  if (forms.length === 0) return [{ show: { kind: 'letter', face, card: true }, turn: 'side' }]
  const over: View[] =
    face.place && face.writing && face.picture
      ? [{ show: { kind: 'over', face, written: face.writing, place: face.place }, turn: 'nothing' }]
      : []
  return [...over, ...forms.map((written): View => ({ show: { kind: 'write', face, written }, turn: 'mirror' }))]
}

/** Both baskets by turns in an order that cannot be guessed: fixed by the words, so that it is the same each time. */
function mixed<T extends { value: string }>(list: readonly T[]): T[] {
  const weight = (s: string) => [...s].reduce((h, c) => (h * 31 + c.charCodeAt(0)) % 997, 7)
  return [...list].sort((a, b) => weight(a.value) - weight(b.value))
}

/** The first screen of the step before or after; after the last one the lesson is over. */
export function jump(list: readonly Screen[], at: number, by: 1 | -1): number {
  const step = list[at]?.step ?? 0
  const target = by > 0 ? step + 1 : list[at - 1]?.step === step ? step : step - 1
  const found = list.findIndex((s) => s.step === target)
  if (found < 0) return by > 0 ? list.length : at
  return found
}

/** Who speaks, as a sign of shape and word. */
export const speakers = {
  adult: ['◐', 'you'],
  both: ['●●', 'all together'],
  class: ['◑', 'the class'],
  silently: ['○', 'silently, then aloud'],
} as const
