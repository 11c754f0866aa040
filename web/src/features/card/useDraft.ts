import { useEffect, useReducer, useRef } from 'react'
import { CallError, keys, queryClient, type CardView, type Content } from '../../api/client'
import { saveCard } from './api'
import { begin, draftReducer, isDirty, isStopped } from './draft'

const pause = 700
const again = 4000

/**
 * Keeps what is typed, saves it after a pause, and never overwrites others: each save says from which
 * version it began, and a clash stops saving until the person has decided.
 */
export function useDraft(card: CardView) {
  const [state, tell] = useReducer(draftReducer, card, begin)
  const busy = useRef(false)
  const { draft, base, saving } = state

  useEffect(() => tell({ type: 'arrived', card }), [card, saving.kind])

  const dirty = isDirty(state)
  const stopped = isStopped(state)
  useEffect(() => {
    if (!dirty || stopped || saving.kind === 'saving') return
    const save = async () => {
      if (busy.current) return
      busy.current = true
      tell({ type: 'saving' })
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
  }, [draft, base, dirty, stopped, saving.kind, state.decided, card.card_id])

  useEffect(() => {
    if (!dirty) return
    const warn = (e: BeforeUnloadEvent) => e.preventDefault()
    window.addEventListener('beforeunload', warn)
    return () => window.removeEventListener('beforeunload', warn)
  }, [dirty])

  return {
    draft,
    change: (part: Partial<Content>) => tell({ type: 'typed', part }),
    saving: dirty && saving.kind === 'saved' ? ({ kind: 'typing' } as const) : saving,
    conflict: state.conflict,
    resolve: (whose: 'mine' | 'theirs') => tell({ type: 'resolved', whose }),
  }
}
