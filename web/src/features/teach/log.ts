import type { Lesson, LessonView } from '../../api/client'
import type { Taught } from './api'
import type { Screen } from './model'

type Sure = Taught['sure'][number]
export type Apart = 'reading' | 'spelling' | 'forming'

/** What is being noted of a lesson. */
export type Draft = { on: string; note: string; skipped: string[]; sure: Record<string, Omit<Sure, 'card_id'>> }

/** The cards of a lesson: its targets first, then those that a step showed. */
export function cardsOf(view: LessonView): string[] {
  const { lesson } = view
  const shown = lesson.steps.flatMap((s) => s.items.filter((i) => i.kind === 'card').map((i) => i.value))
  return [...new Set([...lesson.targets, ...shown])].filter((id) => lesson.cards[id])
}

/** How sure the class was of its cards before, by card. */
export type Levels = ReadonlyMap<string, number>

/** What was noted while the lesson was held: the cards that were shown, and those that were tapped. */
export type Noted = {
  shown: ReadonlySet<string>
  unsure: ReadonlyMap<string, number>
  skipped: ReadonlySet<string>
}

/** The cards that were shown until a screen, without those of steps that were left out. */
export function shownUntil(lesson: Lesson, list: readonly Screen[], at: number, skipped: ReadonlySet<string>) {
  const out = new Set<string>()
  for (const s of list.slice(0, at + 1))
    if ('face' in s.show && !skipped.has(lesson.steps[s.step]?.id ?? '')) out.add(s.show.face.id)
  return out
}

/**
 * A draft to begin with: what was logged; or what was noted as it happened, where what was not touched was sure, and
 * secure where the class was sure for long; or the targets as sure and the others as they were.
 */
export function draftOf(view: LessonView, before: Levels = new Map(), noted?: Noted): Draft {
  const sure: Draft['sure'] = {}
  for (const { card_id, ...s } of view.sure) sure[card_id] = s
  if (view.sure.length === 0 && noted) {
    for (const id of cardsOf(view)) {
      const level = noted.unsure.get(id)
      if (level !== undefined) sure[id] = { sure: level }
      else if (noted.shown.has(id)) sure[id] = { sure: view.untouched[id] ?? 2 }
    }
  } else if (view.sure.length === 0)
    for (const id of cardsOf(view)) {
      const known = before.get(id)
      if (view.lesson.targets.includes(id)) sure[id] = { sure: 2 }
      else if (known !== undefined) sure[id] = { sure: known }
    }
  return {
    on: view.logged?.taught_at.slice(0, 10) ?? '',
    note: view.logged?.note ?? '',
    skipped: view.logged?.skipped ?? [...(noted?.skipped ?? [])],
    sure,
  }
}

export const allSure = (view: LessonView, draft: Draft): Draft => ({
  ...draft,
  sure: Object.fromEntries(cardsOf(view).map((id) => [id, { ...draft.sure[id], sure: 2 }])),
})

const longest = 7200 // seconds; a step that was left open is not measured

/** The body of the call; took are the seconds of the steps that were held to their end. */
export const bodyOf = (draft: Draft, reached: string, took: ReadonlyMap<string, number> = new Map()): Taught => ({
  reached,
  took: [...took]
    .filter(([, seconds]) => seconds >= 1 && seconds <= longest)
    .map(([step_id, seconds]) => ({ step_id, seconds })),
  skipped: draft.skipped,
  note: draft.note,
  ...(draft.on ? { taught_on: draft.on } : {}),
  sure: Object.entries(draft.sure).map(([card_id, s]) => ({ card_id, ...s })),
})
