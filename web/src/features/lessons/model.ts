import type { Item, Lesson, Purpose, Schemas, Step, Vocabulary } from '../../api/client'
import type { Edit, Voice } from './api'

export type Measure = { step: Step; from: number; share: number }

/** The score: where each step begins and how wide it is, as shares of the longer of plan and lesson. */
export function measures(lesson: Lesson): { bars: Measure[]; end: number; over: number } {
  const planned = lesson.minutes * 60
  const whole = Math.max(planned, lesson.seconds)
  let at = 0
  const bars = lesson.steps.map((step) => {
    const bar = { step, from: at, share: step.seconds / whole }
    at += step.seconds
    return bar
  })
  return { bars, end: planned / whole, over: lesson.seconds - planned > 15 ? lesson.seconds - planned : 0 }
}

/** What an item is called on the screen. */
export function label(item: Item, lesson: Lesson): string {
  if (item.kind !== 'card') return item.value
  return lesson.cards[item.value]?.pair.grapheme ?? '?'
}

/** One line that says what a step holds, for the closed row. */
export function summary(step: Step, lesson: Lesson): string {
  const names = step.items.filter((i) => i.basket !== 'has-not' && i.kind !== 'question').map((i) => label(i, lesson))
  if (step.deck?.length) return [...new Set(names)].join(' · ')
  return names.length ? names.join(' · ') : (step.adult[0] ?? '')
}

/** What a step of another lesson shows, in one line. */
export const valuesOf = (step: Step | undefined, lesson: Lesson): string =>
  step ? [...new Set(step.items.map((i) => label(i, lesson)))].join(' · ') || '(the same)' : '(no such step)'

/** What the undo bar says after a change that took something away; empty after any other. */
export function undone(e: Edit, before: Lesson): string {
  const item = 'slot' in e ? before.steps.flatMap((s) => s.items).find((i) => i.slot === e.slot) : undefined
  switch (e.do) {
    case 'remove':
      return item ? `“${label(item, before)}” is taken out.` : ''
    case 'swap':
      return item ? `“${label(item, before)}” is swapped.` : ''
    case 'renew':
      return 'The lesson is made anew.'
    case 'text':
      return e.adult.length + e.class.length > 0 ? '' : 'The words are by rule again.'
    case 'send':
      return e.add ? '' : 'Others stand there now.'
    default:
      return ''
  }
}

type Pair = Lesson['taught'][number]

/** The graphemes of one list that the other lacks. */
export function onlyIn(one: readonly Pair[], other: readonly Pair[]): string {
  const known = new Set(other.map((p) => `${p.grapheme} ${p.sound}`))
  const extra = one.filter((p) => !known.has(`${p.grapheme} ${p.sound}`)).map((p) => p.grapheme)
  return [...new Set(extra)].join(', ')
}

/** What the lesson is about: its graphemes. */
export const about = (lesson: Lesson): string =>
  [...new Set(lesson.targets.map((id) => lesson.cards[id]?.pair.grapheme ?? ''))].join(' · ')

/** What the sentence at the head of the page asks for. */
export type Wish = { classId: string; purpose: Purpose; cards: string[]; minutes: number }

type PurposeKind = Vocabulary['purposes'][number]

/** A purpose takes so many sounds; those too many are let go, and the minutes are its usual ones. */
export function withPurpose(wish: Wish, kind: PurposeKind): Wish {
  return { ...wish, purpose: kind.purpose, cards: wish.cards.slice(0, kind.most_targets), minutes: kind.minutes }
}

/** Cards with those that the team teaches at once with them. */
export function along(cards: readonly string[], wall: readonly Schemas['WallCard'][]): string[] {
  return [...new Set(cards.flatMap((id) => wall.find((c) => c.card_id === id)?.along ?? [id]))]
}

/** Why a lesson cannot be made yet; empty where it can. */
export function lacks(wish: Wish, kind: PurposeKind | undefined): string {
  if (!wish.classId) return 'Choose a class.'
  if (!kind) return ''
  const missing = kind.least_targets - wish.cards.length
  if (missing <= 0) return ''
  return missing === 1 ? 'Choose one sound more.' : `Choose ${missing} sounds.`
}

/** What a class's row offers at one press. */
export function offers(day: Schemas['ClassDay']): { name: string; purpose: Purpose; cards: string[] }[] {
  const out: { name: string; purpose: Purpose; cards: string[] }[] = []
  if (day.focus.length > 0) {
    const names = day.focus_names.slice(0, 2).join(' · ')
    out.push({ name: `catch up on ${names}`, purpose: 'catch-up', cards: day.focus.slice(0, 2) })
  } else if (day.next) out.push({ name: `introduce ${day.next_name}`, purpose: 'introduce', cards: [day.next] })
  if (day.last_card) out.push({ name: `${day.last_name} again`, purpose: 'again', cards: [day.last_card] })
  if (day.again.length > 0)
    out.push({
      name: `${day.again_names[0] ?? ''} again: forgotten twice`,
      purpose: day.kind === 'group' ? 'catch-up' : 'again',
      cards: day.again.slice(0, 1),
    })
  if (day.due.length > 0) out.push({ name: `revise ${day.due_names.join(' · ')}`, purpose: 'revise', cards: day.due })
  return out
}

/** Who speaks an item, as it is chosen beside it. */
export const voices: [Voice, string][] = [
  ['', 'class'],
  ['adult', 'you'],
  ['both', 'together'],
  ['silently', 'silently'],
]
