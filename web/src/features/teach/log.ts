import type { LessonView } from '../../api/client'
import type { Taught } from './api'

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

/** A draft to begin with: what was logged, or the targets as sure and the others as they were. */
export function draftOf(view: LessonView, before: Levels = new Map()): Draft {
  const sure: Draft['sure'] = {}
  for (const { card_id, ...s } of view.sure) sure[card_id] = s
  if (view.sure.length === 0)
    for (const id of cardsOf(view)) {
      const known = before.get(id)
      if (view.lesson.targets.includes(id)) sure[id] = { sure: 2 }
      else if (known !== undefined) sure[id] = { sure: known }
    }
  return {
    on: view.logged?.taught_at.slice(0, 10) ?? '',
    note: view.logged?.note ?? '',
    skipped: view.logged?.skipped ?? [],
    sure,
  }
}

export const allSure = (view: LessonView, draft: Draft): Draft => ({
  ...draft,
  sure: Object.fromEntries(cardsOf(view).map((id) => [id, { ...draft.sure[id], sure: 2 }])),
})

/** The body of the call. */
export const bodyOf = (draft: Draft, reached: string): Taught => ({
  reached,
  skipped: draft.skipped,
  note: draft.note,
  ...(draft.on ? { taught_on: draft.on } : {}),
  sure: Object.entries(draft.sure).map(([card_id, s]) => ({ card_id, ...s })),
})
