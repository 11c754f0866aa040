// @vitest-environment happy-dom
import { afterEach, expect, it, vi } from 'vitest'
import { drop, flush, keep, kept, type Letter } from './outbox'

const letter = (id: string, who = 'me'): Letter => ({
  id,
  who,
  label: id,
  page: '/',
  path: `/cards/${id}`,
  body: { n: 1 },
  at: 1,
})
const answers = (...statuses: (number | Error)[]) => {
  const fetch = vi.fn()
  for (const s of statuses)
    if (s instanceof Error) fetch.mockRejectedValueOnce(s)
    else fetch.mockResolvedValueOnce(new Response(JSON.stringify({ detail: 'Why.' }), { status: s }))
  vi.stubGlobal('fetch', fetch)
  return fetch
}

afterEach(async () => {
  vi.unstubAllGlobals()
  for (const id of ['a', 'b', 'c']) await drop(id)
})

it('sends what is kept, once, in its order, and for the person who typed it', async () => {
  await keep(letter('a'))
  await keep(letter('b'))
  await keep(letter('c', 'other'))
  const fetch = answers(200, 200)
  await flush('me')
  expect(fetch.mock.calls.map((c) => String(c[0]))).toEqual(['/api/cards/a', '/api/cards/b'])
  expect(kept('a', 'me')).toBeUndefined()
  expect(kept('c', 'other')).toBeDefined()
})

it.each([401, 500, 502, 503, new Error('no line')])('waits after %s and sends all again', async (first) => {
  await keep(letter('a'))
  await keep(letter('b'))
  answers(first)
  await flush('me')
  expect([kept('a', 'me')?.problem, kept('b', 'me')?.problem]).toEqual([undefined, undefined])
  expect(answers(200, 200)).not.toHaveBeenCalled()
  await flush('me')
  expect(kept('b', 'me')).toBeUndefined()
})

it('keeps what is refused, with the reason, and goes on with the next', async () => {
  await keep(letter('a'))
  await keep(letter('b'))
  answers(409, 200)
  await flush('me')
  expect(kept('a', 'me')?.problem).toBe('Why.')
  expect(kept('b', 'me')).toBeUndefined()
  const fetch = answers()
  await flush('me')
  expect(fetch).not.toHaveBeenCalled()
})

it('takes what is gone already for taken away, and a card that is gone for refused', async () => {
  await keep({ ...letter('away a'), method: 'DELETE' })
  await keep(letter('b'))
  answers(404, 404)
  await flush('me')
  expect(kept('away a', 'me')).toBeUndefined()
  expect(kept('b', 'me')?.problem).toBe('Why.')
})
