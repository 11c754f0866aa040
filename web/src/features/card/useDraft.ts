import { useCallback, useEffect, useRef, useState } from 'react'
import { CallError, keys, queryClient, type CardView, type Content, type Problem } from '../../api/client'
import { saveCard } from './api'
import { follow, takeTheirs } from './model'

export type Saving = { kind: 'saved' } | { kind: 'typing' } | { kind: 'saving' } | { kind: 'failed'; error: CallError }
type Conflict = NonNullable<Problem['conflict']>

const pause = 700

/**
 * Keeps what is typed, saves it after a pause, and never overwrites others: each save says from which
 * version it began, and a clash stops saving until the person has decided.
 */
export function useDraft(card: CardView) {
  const [draft, setDraft] = useState(card.content)
  const [base, setBase] = useState({ version: card.version, content: card.content })
  const [saving, setSaving] = useState<Saving>({ kind: 'saved' })
  const [conflict, setConflict] = useState<Conflict>()
  const busy = useRef(false)

  // A version by others came in: fields that are not being edited here follow it.
  if (card.version > base.version && saving.kind !== 'saving' && !conflict) {
    const clean = JSON.stringify(draft) === JSON.stringify(base.content)
    if (clean) {
      setDraft(card.content)
      setBase({ version: card.version, content: card.content })
    }
  }

  const save = useCallback(
    async (content: Content, from: { version: number; content: Content }) => {
      if (busy.current) return
      busy.current = true
      setSaving({ kind: 'saving' })
      try {
        const after = await saveCard(card.card_id, from.version, content)
        queryClient.setQueryData(keys.card(card.card_id), (old: CardView | undefined) => ({
          ...after,
          before: old?.before ?? '',
          after: old?.after ?? '',
        }))
        void queryClient.invalidateQueries({ queryKey: keys.versions(card.card_id) })
        setBase({ version: after.version, content: after.content })
        setDraft((now) => follow(content, now, after.content))
        setSaving({ kind: 'saved' })
      } catch (e) {
        const error = e instanceof CallError ? e : new CallError(0, {})
        if (error.problem.conflict) setConflict(error.problem.conflict)
        setSaving({ kind: 'failed', error })
      } finally {
        busy.current = false
      }
    },
    [card.card_id],
  )

  const dirty = JSON.stringify(draft) !== JSON.stringify(base.content)
  const stopped = Boolean(conflict) || (saving.kind === 'failed' && saving.error.status !== 0)
  useEffect(() => {
    if (!dirty || stopped || saving.kind === 'saving') return
    const wait = setTimeout(() => void save(draft, base), saving.kind === 'failed' ? 4000 : pause)
    return () => clearTimeout(wait)
  }, [draft, base, dirty, stopped, saving.kind, save])

  useEffect(() => {
    if (!dirty) return
    const warn = (e: BeforeUnloadEvent) => e.preventDefault()
    window.addEventListener('beforeunload', warn)
    return () => window.removeEventListener('beforeunload', warn)
  }, [dirty])

  const change = (part: Partial<Content>) => {
    setDraft((d) => ({ ...d, ...part }))
    setSaving((s) =>
      s.kind === 'failed' && s.error.status !== 0 && !conflict
        ? { kind: 'typing' }
        : s.kind === 'saved'
          ? { kind: 'typing' }
          : s,
    )
  }
  const resolve = (whose: 'mine' | 'theirs') => {
    if (!conflict) return
    const theirs = conflict.theirs
    const content =
      whose === 'theirs'
        ? takeTheirs(follow(base.content, draft, theirs.content), theirs.content, conflict.fields ?? [])
        : follow(base.content, draft, theirs.content)
    const from = { version: theirs.version, content: theirs.content }
    setConflict(undefined)
    setBase(from)
    setDraft(content)
    void save(content, from)
  }
  return {
    draft,
    change,
    saving: dirty && saving.kind === 'saved' ? ({ kind: 'typing' } as const) : saving,
    conflict,
    resolve,
  }
}
