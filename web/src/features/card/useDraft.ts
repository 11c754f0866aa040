import { useEffect, useLayoutEffect, useReducer, useRef } from 'react'
import { CallError, keys, queryClient, type CardView, type Content } from '../../api/client'
import { drop, keep, kept, useHeld } from '../../api/outbox'
import { saveCard } from './api'
import { begin, draftReducer, isDirty, isStopped, type KeptDraft } from './draft'

const pause = 700
const again = 4000

const letterOf = (cardId: string) => `card ${cardId}`

/** What was typed on a card by somebody and has not reached the server, over reloads and sign-ins. */
const keptDraft = (cardId: string, who: string) => kept(letterOf(cardId), who)?.from as KeptDraft | undefined

/**
 * Keeps what is typed, in the outbox as well, saves it after a pause, and never overwrites others: each save says from which
 * version it began, and a clash stops saving until the person has decided.
 */
export function useDraft(card: CardView, who: string, here = true) {
  const [state, tell] = useReducer(draftReducer, { card, kept: keptDraft(card.card_id, who) }, begin)
  const busy = useRef(false)
  const { draft, base, saving, sent } = state

  useEffect(() => tell({ type: 'arrived', card }), [card, saving.kind])

  const dirty = isDirty(state)
  const stopped = isStopped(state)
  useEffect(() => {
    if (!here || !dirty || stopped || saving.kind === 'saving') return
    const save = async () => {
      if (busy.current) return
      busy.current = true
      tell({ type: 'saving' })
      await new Promise((kept) => setTimeout(kept)) // what is being sent is kept first
      try {
        const after = await saveCard(card.card_id, base.version, draft)
        queryClient.setQueryData(keys.card(card.card_id), after)
        void queryClient.invalidateQueries({ queryKey: keys.versions(card.card_id) })
        tell({ type: 'saved', sent: draft, after })
      } catch (e) {
        tell({ type: 'failed', error: e instanceof CallError ? e : new CallError(0, {}) })
      } finally {
        busy.current = false
      }
    }
    const wait = setTimeout(() => void save(), saving.kind === 'failed' ? again : state.decided ? 0 : pause)
    return () => clearTimeout(wait)
  }, [draft, base, dirty, stopped, saving.kind, state.tries, state.decided, card.card_id, here])

  useHeld(letterOf(card.card_id))
  // Before the next paint: a tab that is closed under the hand loses no letter.
  useLayoutEffect(() => {
    if (!here) return
    const id = letterOf(card.card_id)
    if (!dirty) void drop(id)
    else
      void keep({
        id,
        who,
        label: `Card ${card.pair.grapheme}`,
        page: `/cards/${card.card_id}`,
        path: `/cards/${card.card_id}`,
        body: { base_version: base.version, content: draft },
        from: { draft, base, sent } satisfies KeptDraft,
        at: Date.now(),
      })
  }, [dirty, draft, base, sent, who, here, card.card_id, card.pair.grapheme])

  return {
    draft,
    change: (part: Partial<Content>) => tell({ type: 'typed', part }),
    saving: dirty && saving.kind === 'saved' ? ({ kind: 'typing' } as const) : saving,
    conflict: state.conflict,
    resolve: (whose: 'mine' | 'theirs') => tell({ type: 'resolved', whose }),
  }
}
