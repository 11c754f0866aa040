import { useSyncExternalStore } from 'react'

/** Something that was just done and can be taken back. */
type Undo = { text: string; back: () => unknown }

const listeners = new Set<() => void>()
let last: Undo | undefined

const changed = () => listeners.forEach((f) => f())

/** Offers to take back what was just done, in place of what was offered before. */
export function offerUndo(text: string, back: () => unknown) {
  last = { text, back }
  changed()
}

export function closeUndo() {
  last = undefined
  changed()
}

export const useUndo = () =>
  useSyncExternalStore(
    (f) => {
      listeners.add(f)
      return () => listeners.delete(f)
    },
    () => last,
  )
