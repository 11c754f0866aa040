import { afterEach, expect, it, vi } from 'vitest'
import { CallError, keepChanged, passes, queryClient } from './client'

afterEach(() => vi.unstubAllGlobals())

it.each([0, 401, 408, 429, 500, 502, 503])('may go well later: %i', (status) =>
  expect(passes(new CallError(status, {}))).toBe(true),
)
it.each([400, 403, 404, 409, 413, 422])('is refused, and will be again: %i', (status) =>
  expect(passes(new CallError(status, {}))).toBe(false),
)

it('makes a change again only where the server says that nothing was stored', () => {
  const retry = queryClient.getDefaultOptions().mutations?.retry as (n: number, e: Error) => boolean
  expect(retry(0, new CallError(503, {}))).toBe(true)
  for (const status of [0, 409, 422, 500, 502, 504])
    expect(retry(0, new CallError(status, {})), `${status}`).toBe(false)
  expect(retry(5, new CallError(503, {}))).toBe(false)
})

const id = '0b0e0000-0000-4000-8000-000000000001'

it.each([
  ['PUT', `/api/cards/${id}`, 200, true],
  ['POST', `/api/lessons/${id}/edits`, 200, true],
  ['POST', `/api/cards/${id}/agree`, 200, false], // its answer is not the card
  ['PUT', `/api/lessons/${id}/run`, 200, false],
  ['PUT', `/api/cards/${id}`, 409, false],
])('what %s %s answers with %i is kept for a slow line: %s', async (method, path, status, kept) => {
  const put = vi.fn(() => Promise.resolve())
  vi.stubGlobal('caches', { open: () => Promise.resolve({ put }) })
  await keepChanged(method, path, new Response('{}', { status }))
  expect(put).toHaveBeenCalledTimes(kept ? 1 : 0)
  if (kept) expect(put).toHaveBeenCalledWith(path.replace('/edits', ''), expect.anything())
})
