// @vitest-environment happy-dom
import { act } from 'react'
import { createRoot, type Root } from 'react-dom/client'
import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { keys, queryClient } from './client'
import { onChange, useLive } from './live'

/** The stream of the server, opened by the code under test and fed by the test. */
class Stream extends EventTarget {
  static last: Stream
  static readonly CLOSED = 2
  readyState = 1
  onopen: (() => void) | null = null
  onerror: (() => void) | null = null
  constructor(readonly url: string) {
    super()
    Stream.last = this
  }
  close() {
    this.readyState = 2
  }
  say(kind: string, id: string) {
    this.dispatchEvent(new MessageEvent('change', { data: JSON.stringify({ kind, id }) }))
  }
}

let root: Root
const stale = (key: readonly unknown[]) => queryClient.getQueryState([...key])?.isInvalidated

function Page() {
  useLive()
  return null
}

beforeEach(async () => {
  ;(globalThis as Record<string, unknown>).IS_REACT_ACT_ENVIRONMENT = true
  vi.stubGlobal('EventSource', Stream)
  vi.stubGlobal('navigator', { ...navigator, locks: undefined }) // without HTTPS each tab reads for itself
  for (const key of [keys.wall, keys.card('c'), keys.card('d'), keys.classes, keys.today, keys.me])
    queryClient.setQueryData([...key], {})
  root = createRoot(document.createElement('div'))
  await act(async () => root.render(<Page />))
})

afterEach(() => {
  act(() => root.unmount())
  queryClient.clear()
  vi.unstubAllGlobals()
})

it('fetches a changed card and the wall again, and no other card', () => {
  act(() => Stream.last.onopen?.())
  queryClient.setQueryData([...keys.card('d')], {})
  queryClient.setQueryData([...keys.classes], {})
  act(() => Stream.last.say('card', 'c'))
  expect(stale(keys.card('c'))).toBe(true)
  expect(stale(keys.wall)).toBe(true)
  expect(stale(keys.today)).toBe(true)
  expect(stale(keys.card('d'))).toBe(false)
  expect(stale(keys.classes)).toBe(false)
})

it('fetches classes again after a log, and not the cards', () => {
  act(() => Stream.last.say('class_log', 'k'))
  expect(stale(keys.classes)).toBe(true)
  expect(stale(keys.card('c'))).toBe(false)
})

it('fetches everything again after the connection was lost, for changes may have been missed', () => {
  act(() => Stream.last.onopen?.())
  for (const key of [keys.wall, keys.card('d')]) queryClient.setQueryData([...key], {})
  act(() => Stream.last.onerror?.())
  expect(stale(keys.card('d'))).toBe(false)
  act(() => Stream.last.onopen?.())
  expect(stale(keys.wall)).toBe(true)
  expect(stale(keys.card('d'))).toBe(true)
})

it('tells what is shown of each change, until that is gone', () => {
  const seen: string[] = []
  const stop = onChange((kind, id) => seen.push(`${kind} ${id}`))
  act(() => Stream.last.say('lesson_run', 'l'))
  stop()
  act(() => Stream.last.say('lesson_run', 'm'))
  expect(seen).toEqual(['lesson_run l'])
})

it('lets go of the stream with the page', () => {
  act(() => root.unmount())
  expect(Stream.last.readyState).toBe(2)
  root = createRoot(document.createElement('div'))
})
