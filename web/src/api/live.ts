import { useEffect, useSyncExternalStore } from 'react'
import { keys, queryClient } from './client'

type LiveState = 'live' | 'waiting'
let state: LiveState = 'waiting'
const listeners = new Set<() => void>()
const set = (next: LiveState) => {
  if (next !== state) {
    state = next
    listeners.forEach((f) => f())
  }
}

/** Keeps the query cache true to what others change, over one event stream for the whole application. */
export function useLive() {
  useEffect(() => {
    const source = new EventSource('/api/events')
    let opened = false
    source.onopen = () => {
      set('live')
      if (opened) void queryClient.invalidateQueries() // changes may have been missed
      opened = true
    }
    source.onerror = () => set('waiting')
    source.addEventListener('change', (e) => {
      const { kind, id } = JSON.parse(String(e.data)) as { kind: string; id: string }
      if (kind === 'card' || kind === 'take') {
        void queryClient.invalidateQueries({ queryKey: keys.wall, exact: true })
        void queryClient.invalidateQueries({ queryKey: keys.card(id) })
        void queryClient.invalidateQueries({ queryKey: keys.sounds })
      } else if (kind === 'lesson') {
        void queryClient.invalidateQueries({ queryKey: ['lessons', 'list'] })
        void queryClient.invalidateQueries({ queryKey: keys.lesson(id) })
      } else if (['class_log', 'school_class', 'lesson_log', 'class_known', 'class_known_word'].includes(kind)) {
        void queryClient.invalidateQueries({ queryKey: keys.classes })
      } else void queryClient.invalidateQueries()
    })
    return () => source.close()
  }, [])
}

export const useLiveState = () =>
  useSyncExternalStore(
    (f) => {
      listeners.add(f)
      return () => listeners.delete(f)
    },
    () => state,
  )
