import { useEffect, useRef } from 'react'

/** Single keys, while no field is written in and the focus is inside the returned element or nowhere. */
export function useKeys(keys: Record<string, (() => void) | undefined>) {
  const root = useRef<HTMLDivElement>(null)
  const now = useRef(keys)
  useEffect(() => {
    now.current = keys
  })
  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      const at = e.target as HTMLElement
      const writing = at.matches(
        'input:not([type=checkbox]), textarea, select, [role=slider], [role=application], [contenteditable]',
      )
      if (
        e.ctrlKey ||
        e.metaKey ||
        e.altKey ||
        e.repeat ||
        writing ||
        (at !== document.body && !root.current?.contains(at))
      )
        return
      const run = now.current[e.key]
      if (!run) return
      e.preventDefault()
      run()
    }
    window.addEventListener('keydown', onKey)
    return () => window.removeEventListener('keydown', onKey)
  }, [])
  return root
}
