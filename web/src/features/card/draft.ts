import { passes, type CallError, type CardView, type Content, type Problem } from '../../api/client'
import { follow, takeTheirs, type Saving } from './model'

type Conflict = NonNullable<Problem['conflict']>
type Base = { version: number; content: Content }

/**
 * What is being written on a card: the draft, the version it began from, how saving goes, a clash, and whether the
 * person has just decided one, which is saved without a pause.
 */
export type DraftState = {
  draft: Content
  base: Base
  saving: Saving
  tries: number // that failed, so that each is followed by another
  conflict?: Conflict | undefined
  decided?: boolean
  sent: readonly Content[] // that may have reached the server without an answer, the newest last
}

const mostSent = 4

export type DraftEvent =
  | { type: 'typed'; part: Partial<Content> }
  | { type: 'arrived'; card: CardView } // a version by others
  | { type: 'saving' }
  | { type: 'saved'; sent: Content; after: CardView }
  | { type: 'failed'; error: CallError }
  | { type: 'resolved'; whose: 'mine' | 'theirs' }

/** What was typed before and never reached the server. */
export type KeptDraft = { draft: Content; base: Base; sent?: readonly Content[] }

export const begin = ({ card, kept }: { card: CardView; kept?: KeptDraft | undefined }): DraftState => ({
  draft: kept?.draft ?? card.content,
  base: kept?.base ?? { version: card.version, content: card.content },
  saving: { kind: kept ? 'typing' : 'saved' },
  tries: 0,
  sent: kept ? [...(kept.sent ?? []), kept.draft] : [], // another tab may have sent it
})

export const isDirty = (s: DraftState) => JSON.stringify(s.draft) !== JSON.stringify(s.base.content)

/** Saving waits for the person: a clash, or an answer that trying again will not change. */
export const isStopped = (s: DraftState) =>
  Boolean(s.conflict) || (s.saving.kind === 'failed' && !passes(s.saving.error))

/** Whether theirs is what was sent from here before: its answer was lost. */
const wasSent = (sent: readonly Content[], { theirs, fields }: Conflict) =>
  sent.some((mine) =>
    fields.every(
      (f) => JSON.stringify(mine[f as keyof Content]) === JSON.stringify(theirs.content[f as keyof Content]),
    ),
  )

/** Whether mine goes on where theirs ends: the writing went to another tab. */
const continues = (mine: Content, { theirs, fields }: Conflict) =>
  fields.every((f) => {
    const [own, other] = [mine[f as keyof Content], theirs.content[f as keyof Content]]
    return typeof own === 'string' && typeof other === 'string' && other !== '' && own.startsWith(other)
  })

export function draftReducer(s: DraftState, e: DraftEvent): DraftState {
  switch (e.type) {
    case 'typed': {
      const mended = s.saving.kind === 'failed' && !passes(s.saving.error) && !s.conflict
      const saving: Saving = mended || s.saving.kind === 'saved' ? { kind: 'typing' } : s.saving
      return { ...s, draft: { ...s.draft, ...e.part }, saving }
    }
    case 'arrived': {
      const newer = e.card.version > s.base.version
      if (!newer || s.saving.kind === 'saving' || s.conflict || isDirty(s)) return s
      return { ...s, draft: e.card.content, base: { version: e.card.version, content: e.card.content } }
    }
    case 'saving':
      return { ...s, saving: { kind: 'saving' }, decided: false, sent: [...s.sent, s.draft].slice(-mostSent) }
    case 'saved':
      return {
        draft: follow(e.sent, s.draft, e.after.content),
        base: { version: e.after.version, content: e.after.content },
        saving: { kind: 'saved' },
        tries: 0,
        sent: [],
      }
    case 'failed': {
      const conflict = e.error.problem.conflict
      if (conflict && (wasSent(s.sent, conflict) || continues(s.draft, conflict)))
        return draftReducer({ ...s, conflict }, { type: 'resolved', whose: 'mine' })
      return {
        ...s,
        saving: { kind: 'failed', error: e.error },
        tries: s.tries + 1,
        conflict: conflict ?? s.conflict,
      }
    }
    case 'resolved': {
      if (!s.conflict) return s
      const { theirs, fields } = s.conflict
      const joined = follow(s.base.content, s.draft, theirs.content)
      return {
        draft: e.whose === 'theirs' ? takeTheirs(joined, theirs.content, fields) : joined,
        base: { version: theirs.version, content: theirs.content },
        saving: { kind: 'typing' },
        tries: 0,
        decided: true,
        sent: [],
      }
    }
  }
}
