import { useEffect, useRef } from 'react'
import { singleKeysOn, tell, type Says } from './shortcuts'

/** What a key does; false says that it does nothing here, and the browser may have it. */
export type KeyMap = Record<string, (() => unknown) | undefined>

const fields = 'input:not([type=checkbox]), textarea, select, [role=slider], [role=application], [contenteditable]'

/** The name of a pressed key: alt+h with the alt key held. */
const nameOf = (e: { key: string; altKey: boolean }) => (e.altKey ? `alt+${e.key}` : e.key)

type Pressed = { key: string; altKey: boolean; ctrlKey: boolean; metaKey: boolean; preventDefault: () => void }

/** Runs what a map has for a key, and keeps the key from the browser. */
function run(keys: KeyMap, e: Pressed): boolean {
  const call = keys[nameOf(e)]
  if (!call || e.ctrlKey || e.metaKey) return false
  if (call() === false) return false
  e.preventDefault()
  return true
}

/** What a focused control does with a key of its own: a button is pressed by Enter and Space, a link by Enter. */
const controls = 'button, summary, select, [role=button], [role=tab], [role=radio], [role=menuitem], [role=switch]'
const takenBy = (at: HTMLElement, key: string) =>
  (key === 'Enter' && Boolean(at.closest('a[href]'))) ||
  ((key === 'Enter' || key === ' ') && Boolean(at.closest(controls)))

type Options = {
  /** What the keys do, in words for the list of keys. */
  says?: Says | undefined
  /** Wherever the focus is, but in a field; otherwise only inside the returned element or nowhere. */
  everywhere?: boolean
  /** A held key counts again and again. */
  repeat?: boolean
}

/** Keys of a page, while no field is written in. A key with alt counts in fields too. */
export function useKeys(keys: KeyMap, { everywhere = false, repeat = false, says }: Options = {}) {
  const root = useRef<HTMLDivElement>(null)
  const now = useRef(keys)
  useEffect(() => {
    now.current = keys
  })
  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      const at = e.target instanceof HTMLElement ? e.target : document.body
      if (e.repeat && !repeat) return
      if (!e.altKey && at.matches(fields)) return
      if (!everywhere && at !== document.body && !root.current?.contains(at)) return
      if (takenBy(at, e.key)) return
      if (e.key.length === 1 && e.key !== ' ' && !e.altKey && !singleKeysOn()) return
      run(now.current, e)
    }
    window.addEventListener('keydown', onKey)
    return () => window.removeEventListener('keydown', onKey)
  }, [everywhere, repeat])
  useEffect(() => (says ? tell(says) : undefined), [says])
  return root
}

/** Keys of one element that has the focus: its onKeyDown. */
export const keysOn = (keys: KeyMap) => (e: React.KeyboardEvent) => {
  if (run(keys, e)) e.stopPropagation()
}
