// @vitest-environment happy-dom
import { act } from 'react'
import { createRoot, type Root } from 'react-dom/client'
import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { drop, kept, useTakenAway } from './outbox'

let taken: ReturnType<typeof useTakenAway>
let root: Root
function Page() {
  // The test presses from outside.
  // eslint-disable-next-line react-hooks/globals
  taken = useTakenAway('me')
  return null
}
const letter = { label: 'a take', page: '/', path: '/takes/1', method: 'DELETE' as const, body: {} }

beforeEach(async () => {
  ;(globalThis as Record<string, unknown>).IS_REACT_ACT_ENVIRONMENT = true
  vi.stubGlobal(
    'fetch',
    vi.fn(() => Promise.resolve(new Response('{}', { status: 200 }))),
  )
  root = createRoot(document.createElement('div'))
  await act(async () => root.render(<Page />))
})
afterEach(async () => {
  vi.unstubAllGlobals()
  await drop('away 1')
})

it('takes nothing away before the page is left', async () => {
  await act(async () => taken.takeAway('1', letter))
  expect(taken.away.has('1')).toBe(true)
  expect(fetch).not.toHaveBeenCalled()
  expect(kept('away 1', 'me'), 'it would go with the next visit').toBeDefined()
  await act(async () => root.unmount())
  expect(fetch).toHaveBeenCalledTimes(1)
  expect(fetch).toHaveBeenCalledWith('/api/takes/1', { method: 'DELETE' })
})

it('leaves what was put back', async () => {
  await act(async () => taken.takeAway('1', letter))
  await act(async () => taken.putBack('1'))
  expect(taken.away.size).toBe(0)
  await act(async () => root.unmount())
  expect(fetch).not.toHaveBeenCalled()
})

it('goes when the window is closed', async () => {
  await act(async () => taken.takeAway('1', letter))
  window.dispatchEvent(new Event('pagehide'))
  expect(fetch).toHaveBeenCalledWith('/api/takes/1', { method: 'DELETE', keepalive: true })
  await act(async () => root.unmount())
})
