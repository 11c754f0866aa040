import { useEffect, useSyncExternalStore } from 'react'
import { keys, queryClient } from './client'

type LiveState = 'live' | 'waiting'
type News = { state: LiveState } | { change: { kind: string; id: string } } | { missed: true }

let state: LiveState = 'waiting'
const listeners = new Set<() => void>()
const watchers = new Set<(kind: string, id: string) => void>()

/** Calls f with each change of the team's library while something is shown that keeps a part of it by itself. */
export function onChange(f: (kind: string, id: string) => void): () => void {
  watchers.add(f)
  return () => void watchers.delete(f)
}

function hear(news: News) {
  if ('state' in news) {
    state = news.state
    listeners.forEach((f) => f())
    return
  }
  if ('missed' in news) {
    void queryClient.invalidateQueries()
    return
  }
  const { kind, id } = news.change
  watchers.forEach((f) => f(kind, id))
  if (kind === 'job') {
    // Everybody hears of everybody's: only one's own are asked for.
    const own = queryClient.getQueryData<{ job_id: string }[]>(keys.jobs)
    if (own?.some((j) => j.job_id === id)) void queryClient.invalidateQueries({ queryKey: keys.jobs })
    return
  }
  if (ofToday.includes(kind)) void queryClient.invalidateQueries({ queryKey: keys.today })
  if (kind === 'notice') return
  if (kind === 'audit_left') {
    void queryClient.invalidateQueries({ queryKey: keys.audit })
    return
  }
  if (kind === 'review' || kind === 'remark') {
    void queryClient.invalidateQueries({ queryKey: keys.card(id), exact: true })
    void queryClient.invalidateQueries({ queryKey: keys.review(id) })
  } else if (kind === 'card' || kind === 'take') {
    void queryClient.invalidateQueries({ queryKey: keys.wall, exact: true })
    void queryClient.invalidateQueries({ queryKey: keys.card(id) })
    void queryClient.invalidateQueries({ queryKey: keys.audit })
    void queryClient.invalidateQueries({ queryKey: keys.sounds })
    void queryClient.invalidateQueries({ queryKey: keys.order })
  } else if (kind === 'order_proposal') {
    void queryClient.invalidateQueries({ queryKey: keys.order, exact: true })
  } else if (kind === 'hearing') {
    void queryClient.invalidateQueries({ queryKey: keys.agreement })
  } else if (kind === 'lesson') {
    void queryClient.invalidateQueries({ queryKey: ['lessons', 'list'] })
    void queryClient.invalidateQueries({ queryKey: keys.lesson(id) })
  } else if (classTables.includes(kind)) {
    void queryClient.invalidateQueries({ queryKey: keys.classes })
  } else void queryClient.invalidateQueries()
}

/** Tables of which a change shows on the page of the morning. */
const ofToday = [
  'card',
  'take',
  'review',
  'remark',
  'notice',
  'lesson',
  'lesson_log',
  'class_log',
  'class_member',
  'school_class',
  'class_pace',
  'school_year',
  'order_proposal',
]

const classTables = [
  'class_member',
  'class_log',
  'school_class',
  'lesson_log',
  'class_known',
  'class_known_word',
  'class_pace',
  'school_year',
  'group_source',
  'memory_fit',
]

const wait = (ms: number) => new Promise((done) => setTimeout(done, ms))

/** Reads the event stream until told to stop; it is opened anew whatever ended it, even an answer that is no stream. */
async function listen(tell: (news: News) => void, stopped: AbortSignal) {
  const over = () => stopped.aborted
  for (let opened = state === 'live', pause = 1000; !over(); pause = Math.min(pause * 2, 30_000)) {
    await new Promise<void>((ended) => {
      const source = new EventSource('/api/events')
      stopped.addEventListener('abort', () => {
        source.close()
        ended()
      })
      source.onopen = () => {
        pause = 1000
        tell({ state: 'live' })
        if (opened) tell({ missed: true }) // changes may have been missed
        opened = true
      }
      source.onerror = () => {
        tell({ state: 'waiting' })
        if (source.readyState === EventSource.CLOSED) ended()
      }
      source.addEventListener('change', (e) =>
        tell({ change: JSON.parse(String(e.data)) as { kind: string; id: string } }),
      )
    })
    if (!over()) {
      void queryClient.invalidateQueries({ queryKey: keys.me }) // the session may have ended
      await wait(pause)
    }
  }
}

/**
 * Keeps the query cache true to what others change. A browser opens few connections to one server, so one tab reads
 * the stream and tells the others; when it closes, the next takes over.
 */
export function useLive() {
  useEffect(() => {
    const stop = new AbortController()
    // eslint-disable-next-line @typescript-eslint/no-unnecessary-condition -- only where the page is secure
    if (!navigator.locks) {
      void listen(hear, stop.signal)
      return () => stop.abort()
    }
    const tabs = new BroadcastChannel('bright-chalk-live')
    let reads = false
    tabs.onmessage = (e: MessageEvent<News | 'how is it?'>) => {
      if (e.data !== 'how is it?') hear(e.data)
      else if (reads) tabs.postMessage({ state })
    }
    tabs.postMessage('how is it?')
    const tell = (news: News) => {
      hear(news)
      tabs.postMessage(news)
    }
    const lead = async () => {
      reads = true
      await listen(tell, stop.signal)
    }
    navigator.locks.request('bright-chalk-live', { signal: stop.signal }, lead).catch(() => undefined)
    return () => {
      stop.abort()
      tabs.close()
    }
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
