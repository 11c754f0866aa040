import { createContext, use } from 'react'

/** Words that were picked from any of the games, to be sent on together. */
export type Tray = {
  words: string[]
  toggle: (word: string) => void
  add: (words: string[]) => void
  clear: () => void
}

export const TrayContext = createContext<Tray>({ words: [], toggle: () => {}, add: () => {}, clear: () => {} })

export const useTray = () => use(TrayContext)
