import { useSyncExternalStore } from 'react'

const lists = new Map<string, MediaQueryList>()
const listOf = (query: string) => {
  const list = lists.get(query) ?? window.matchMedia(query)
  lists.set(query, list)
  return list
}

/** Whether a media query holds now. */
const useMedia = (query: string) =>
  useSyncExternalStore(
    (f) => {
      const list = listOf(query)
      list.addEventListener('change', f)
      return () => list.removeEventListener('change', f)
    },
    () => listOf(query).matches,
  )

/** Room for two things beside each other. */
export const useWide = () => useMedia('(min-width: 64rem)')
