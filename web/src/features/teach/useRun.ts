import { useCallback, useEffect, useMemo, useRef, useState } from 'react'
import { client } from '../../api/client'
import { recallAs, remember, remembered } from '../../ui/remembered'
import { join, newer, stamp, stateOf, type Mark, type Marks } from './marks'

const prefix = 'bright-chalk.run '
const forgotten = 14 * 24 * 3600_000 // a lesson that nobody opened for two weeks is not gone on with
const again = 2000

type Kept = { at: number; marks: Mark[] }

const nothing: Marks = new Map()

function recallRun(lessonId: string): Marks {
  for (const name of remembered(prefix)) {
    const kept = recallAs<Kept>(name)
    if (!kept || Date.now() - kept.at > forgotten) remember(name, undefined)
  }
  return join(nothing, recallAs<Kept>(prefix + lessonId)?.marks ?? [])
}

/** How the marks of a face travel: to other windows of the browser, and by the server to other machines. */
export type Line = 'live' | 'waiting' | 'alone'

/**
 * A running lesson. What is set here holds at once; other windows of this browser have it by a channel, other machines
 * by the server, which is told as soon as it can be reached. After a reload everything stands where it stood.
 */
export function useRun(lessonId: string, face: string, shared = true) {
  const [marks, setMarks] = useState<Marks>(() => recallRun(lessonId))
  const [line, setLine] = useState<Line>(shared ? 'waiting' : 'alone')
  const [asked, setAsked] = useState(!shared) // whether the server was heard, or cannot be
  const now = useRef(marks)
  const [by] = useState(() => `${face}-${Math.random().toString(36).slice(2, 8)}`)
  const offset = useRef<number>(undefined) // of the server's clock
  const tell = useRef<(marks: Mark[]) => void>(undefined)

  const take = useCallback(
    (more: readonly Mark[]) => {
      const next = join(now.current, more)
      if (next === now.current) return false
      now.current = next
      setMarks(next)
      remember(prefix + lessonId, JSON.stringify({ at: Date.now(), marks: [...next.values()] } satisfies Kept))
      return true
    },
    [lessonId],
  )
  const clock = useCallback(() => Date.now() + (offset.current ?? 0), [])
  const set = useCallback(
    (values: Readonly<Record<string, unknown>>) => {
      const more = stamp(now.current, values, by)
      if (take(more)) tell.current?.(more)
    },
    [by, take],
  )

  useEffect(() => {
    const windows =
      !shared || typeof BroadcastChannel === 'undefined' ? undefined : new BroadcastChannel(prefix + lessonId)
    let theirs: Marks = nothing // what the server is known to have
    let busy = false
    let over = false
    let later: ReturnType<typeof setTimeout> | undefined
    const heard = (view: { marks: Mark[]; now_ms: number }) => {
      offset.current = Math.max(offset.current ?? -Infinity, view.now_ms - Date.now()) // the quickest answer is the truest
      theirs = join(theirs, view.marks)
      take(view.marks)
      setLine('live')
      setAsked(true)
    }
    const send = async () => {
      const fresh = newer(now.current, theirs)
      if (busy || over || !shared || fresh.length === 0) return
      busy = true
      const path = { id: lessonId }
      const { data, response } = await client
        .PUT('/lessons/{id}/run', { params: { path }, body: { marks: fresh }, keepalive: true })
        .catch(() => ({ data: undefined, response: undefined }))
      busy = false
      if (data) {
        heard(data)
        void send()
        return
      }
      setLine('waiting')
      // Who was let go, or signed out, goes on alone; a lost line is waited for.
      if (response && response.status < 500 && response.status !== 401) return
      clearTimeout(later)
      later = setTimeout(() => void send(), again)
    }
    if (windows)
      windows.onmessage = (e: MessageEvent<Mark[] | 'all?'>) => {
        if (e.data === 'all?') windows.postMessage([...now.current.values()])
        else take(e.data)
      }
    windows?.postMessage('all?')
    tell.current = (more) => {
      windows?.postMessage(more)
      void send()
    }
    let stream: EventSource | undefined
    const open = () => {
      if (over || !shared) return
      stream = new EventSource(`/api/lessons/${lessonId}/run/events`)
      stream.addEventListener('run', (e) => {
        heard(JSON.parse(String(e.data)) as { marks: Mark[]; now_ms: number })
        void send()
      })
      stream.onerror = () => {
        setLine('waiting')
        setAsked(true)
        if (stream?.readyState !== EventSource.CLOSED) return
        stream.close()
        setTimeout(open, again)
      }
    }
    open()
    return () => {
      over = true
      clearTimeout(later)
      stream?.close()
      windows?.close()
      tell.current = undefined
    }
  }, [lessonId, shared, take])

  const state = useMemo(() => stateOf(marks), [marks])
  return { state, marks, set, line, clock, asked }
}
