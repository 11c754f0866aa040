import type { Bit, Face, Lesson, Step } from '../../api/client'
import type { Written } from '../../ui/Writing'

/** One thing on the projector. */
export type Screen = {
  step: number
  adult: string
  class: string
  show:
    | { kind: 'letter'; face: Face }
    | { kind: 'write'; face: Face; written: Written }
    | { kind: 'over'; face: Face; written: Written; place: NonNullable<Lesson['place']> }
    | { kind: 'picture'; face: Face }
    | { kind: 'word'; word: string; bits: Bit[]; hidden: 'sounds' | 'none' }
    | { kind: 'sort'; word: string; yes: boolean }
    | { kind: 'quarters'; pictures: { word: string; first: boolean }[] }
    | { kind: 'sentence'; text: string }
    | { kind: 'pieces'; pieces: string[]; text: string }
    | { kind: 'page'; text: string }
    | { kind: 'say'; text: string }
  /** What Enter turns up: the other side, the answer, the bridges. */
  turn: 'answer' | 'bridges' | 'side' | 'mirror' | 'nothing'
}

const first = (lines: string[] | null) => lines?.[0] ?? ''

/** The screens of a lesson in order; each step has at least one. */
export function screens(lesson: Lesson): Screen[] {
  const out: Screen[] = []
  const target = lesson.cards[lesson.card_id]
  lesson.steps.forEach((step, index) => {
    const lines = { step: index, adult: step.adult.join(' '), class: first(step.class) }
    for (const s of ofStep(step, lesson, target)) out.push({ ...lines, ...s })
  })
  return out
}

function ofStep(step: Step, lesson: Lesson, target: Face | undefined): Pick<Screen, 'show' | 'turn'>[] {
  const face = (id: string) => lesson.cards[id]
  if (step.deck?.length) {
    return step.deck.flatMap((d) => {
      const f = face(d.card_id)
      return f ? [{ show: { kind: d.side, face: f }, turn: 'side' as const }] : []
    })
  }
  const choices = step.choices
  switch (step.kind) {
    case 'ear': {
      const quarters = choices.filter((c) => c.basket === 'first' || c.basket === 'last')
      const sorting: Pick<Screen, 'show' | 'turn'>[] = mixed(choices.filter((c) => !quarters.includes(c))).map((c) => ({
        show: { kind: 'sort', word: c.value, yes: c.basket === 'has' },
        turn: 'answer',
      }))
      if (quarters.length > 0)
        sorting.push({
          show: { kind: 'quarters', pictures: quarters.map((c) => ({ word: c.value, first: c.basket === 'first' })) },
          turn: 'answer',
        })
      return sorting
    }
    case 'blend':
    case 'spell':
      return choices.map((c) => ({
        show: { kind: 'word', word: c.value, bits: lesson.word_bits[c.value] ?? [], hidden: 'sounds' },
        turn: 'answer',
      }))
    case 'read':
      return choices.map((c) => ({
        show: { kind: 'word', word: c.value, bits: lesson.word_bits[c.value] ?? [], hidden: 'none' },
        turn: 'bridges',
      }))
    case 'sentence':
      return choices.flatMap((c) => {
        const whole: Pick<Screen, 'show' | 'turn'> = { show: { kind: 'sentence', text: c.value }, turn: 'bridges' }
        return step.pieces?.length
          ? [{ show: { kind: 'pieces', pieces: step.pieces, text: c.value }, turn: 'answer' }, whole]
          : [whole]
      })
    case 'page':
      return choices.map((c) => ({ show: { kind: 'page', text: c.value }, turn: 'bridges' }))
    case 'picture':
      return target ? [{ show: { kind: 'picture', face: target }, turn: 'side' }] : []
    case 'hand': {
      const forms = [lesson.writing, lesson.capital].filter((w): w is Written => Boolean(w))
      if (!target) return []
      const over: Pick<Screen, 'show' | 'turn'>[] =
        lesson.place && lesson.writing && target.picture
          ? [{ show: { kind: 'over', face: target, written: lesson.writing, place: lesson.place }, turn: 'nothing' }]
          : []
      return forms.length
        ? [
            ...over,
            ...forms.map((written) => ({
              show: { kind: 'write' as const, face: target, written },
              turn: 'mirror' as const,
            })),
          ]
        : [{ show: { kind: 'letter', face: target }, turn: 'side' }]
    }
    case 'letter':
    case 'close':
      return target ? [{ show: { kind: 'letter', face: target }, turn: 'side' }] : []
  }
  return [{ show: { kind: 'say', text: step.name }, turn: 'nothing' }]
}

/** Both baskets by turns in an order that cannot be guessed: fixed by the words, so that it is the same each time. */
function mixed<T extends { value: string }>(list: readonly T[]): T[] {
  const weight = (s: string) => [...s].reduce((h, c) => (h * 31 + c.charCodeAt(0)) % 997, 7)
  return [...list].sort((a, b) => weight(a.value) - weight(b.value))
}

/** Seconds planned until the end of a screen: the steps before, and its part of its own step. */
export function plannedUntil(lesson: Lesson, list: readonly Screen[], at: number): number {
  const screen = list[at]
  if (!screen) return lesson.seconds
  const steps = lesson.steps
  const before = steps.slice(0, screen.step).reduce((sum, s) => sum + s.seconds, 0)
  const own = list.filter((s) => s.step === screen.step).length
  const place = list.slice(0, at + 1).filter((s) => s.step === screen.step).length
  return before + ((steps[screen.step]?.seconds ?? 0) * place) / Math.max(1, own)
}

/** The first screen of the step before or after. */
export function jump(list: readonly Screen[], at: number, by: 1 | -1): number {
  const step = list[at]?.step ?? 0
  const target = by > 0 ? step + 1 : list[at - 1]?.step === step ? step : step - 1
  const found = list.findIndex((s) => s.step === target)
  return found < 0 ? at : found
}
