// @vitest-environment happy-dom
import { act } from 'react'
import { createRoot, type Root } from 'react-dom/client'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { CallError, type CardView, type Content } from '../../api/client'
import { drop, kept } from '../../api/outbox'
import { saveCard } from './api'
import { emptyContent } from './emptyContent'
import { useDraft } from './useDraft'

vi.mock('./api', () => ({ saveCard: vi.fn() }))
const save = vi.mocked(saveCard)

const card = (version: number, part: Partial<Content> = {}) =>
  ({ card_id: 'c', version, pair: { grapheme: 'b', sound: 'b' }, content: { ...emptyContent, ...part } }) as CardView

type Draft = ReturnType<typeof useDraft>
let root: Root
let now: Draft

function Probe({ card }: { card: CardView }) {
  // The test reads what the hook last returned; nothing else renders from it.
  // eslint-disable-next-line react-hooks/globals
  now = useDraft(card, 'me')
  return null
}

const show = (c: CardView) => act(async () => root.render(<Probe card={c} />))
const wait = (ms: number) => act(async () => void (await vi.advanceTimersByTimeAsync(ms)))

beforeEach(() => {
  ;(globalThis as Record<string, unknown>).IS_REACT_ACT_ENVIRONMENT = true
  vi.useFakeTimers()
  save.mockReset()
  root = createRoot(document.createElement('div'))
})

afterEach(() => {
  act(() => root.unmount())
  void drop('card c')
  vi.useRealTimers()
})

describe('a card that is being written', () => {
  it('saves by itself after a pause, once, from the version it began with', async () => {
    save.mockImplementation((_, __, content) => Promise.resolve(card(2, content)))
    await show(card(1))
    await act(async () => now.change({ rhyme: 'a' }))
    expect(now.saving.kind).toBe('typing')
    await wait(300)
    await act(async () => now.change({ rhyme: 'ab' }))
    await wait(300)
    expect(save).not.toHaveBeenCalled()
    await wait(1000)
    expect(save).toHaveBeenCalledTimes(1)
    expect(save.mock.calls[0]?.[1]).toBe(1)
    expect(save.mock.calls[0]?.[2].rhyme).toBe('ab')
    expect(now.saving.kind).toBe('saved')
  })

  it('tries again when the line is down, and says that nothing is saved', async () => {
    save
      .mockRejectedValueOnce(new CallError(0, {}))
      .mockImplementation((_, __, content) => Promise.resolve(card(2, content)))
    await show(card(1))
    await act(async () => now.change({ rhyme: 'a' }))
    await wait(1000)
    expect(now.saving.kind).toBe('failed')
    expect(now.draft.rhyme).toBe('a')
    await wait(5000)
    expect(save).toHaveBeenCalledTimes(2)
    expect(now.saving.kind).toBe('saved')
  })

  it.each([500, 502, 503, 401])('tries again after %i, and keeps what was typed meanwhile', async (status) => {
    save
      .mockRejectedValueOnce(new CallError(status, {}))
      .mockImplementation((_, __, content) => Promise.resolve(card(2, content)))
    await show(card(1))
    await act(async () => now.change({ rhyme: 'a' }))
    await wait(1000)
    expect(now.saving.kind).toBe('failed')
    expect(kept('card c', 'me')?.body).toMatchObject({ base_version: 1, content: { rhyme: 'a' } })
    await act(async () => now.change({ rhyme: 'ab' }))
    await wait(5000)
    expect(save.mock.calls[1]?.[2].rhyme).toBe('ab')
    expect(now.saving.kind).toBe('saved')
    expect(kept('card c', 'me')).toBeUndefined()
  })

  it('goes on from what was kept when the page is opened again', async () => {
    save.mockRejectedValue(new CallError(0, {}))
    await show(card(1))
    await act(async () => now.change({ rhyme: 'mine' }))
    act(() => root.unmount())
    root = createRoot(document.createElement('div'))
    save.mockReset()
    save.mockImplementation((_, version, content) => Promise.resolve(card(version + 1, content)))
    await show(card(2, { action: 'theirs' }))
    expect(now.draft.rhyme).toBe('mine')
    await wait(1000)
    expect(save.mock.calls[0]?.[1]).toBe(1) // from where it began: the server joins both
  })

  it('stops at a refusal until something is changed', async () => {
    save.mockRejectedValue(new CallError(422, { detail: 'Too long.', field: 'rhyme' }))
    await show(card(1))
    await act(async () => now.change({ rhyme: 'a' }))
    await wait(20_000)
    expect(save).toHaveBeenCalledTimes(1)
    await act(async () => now.change({ rhyme: 'b' }))
    await wait(1000)
    expect(save).toHaveBeenCalledTimes(2)
  })

  it('follows what others write as long as nothing is typed here', async () => {
    await show(card(1, { rhyme: 'old' }))
    await show(card(2, { rhyme: 'theirs' }))
    expect(now.draft.rhyme).toBe('theirs')
    expect(now.saving.kind).toBe('saved')
  })

  it('asks when both wrote the same field, and then saves from their version', async () => {
    const theirs = card(3, { rhyme: 'theirs', action: 'theirs' })
    save.mockRejectedValueOnce(new CallError(409, { detail: '', conflict: { fields: ['rhyme'], by: 'TQ', theirs } }))
    await show(card(1))
    await act(async () => now.change({ rhyme: 'mine', slip: 'mine' }))
    await wait(1000)
    expect(now.conflict?.by).toBe('TQ')
    await wait(10_000)
    expect(save).toHaveBeenCalledTimes(1)
    save.mockImplementation((_, version, content) => Promise.resolve(card(version + 1, content)))
    await act(async () => now.resolve('theirs'))
    await wait(100)
    expect(save.mock.calls[1]?.[1]).toBe(3)
    const sent = save.mock.calls[1]?.[2]
    expect([sent?.rhyme, sent?.action, sent?.slip]).toEqual(['theirs', 'theirs', 'mine'])
    expect(now.conflict).toBeUndefined()
    expect(now.saving.kind).toBe('saved')
  })

  it('goes on over its own save whose answer was lost, also after the page was opened anew', async () => {
    save.mockImplementationOnce(() => new Promise(() => undefined)) // it arrives there; the answer never comes
    await show(card(1))
    await act(async () => now.change({ rhyme: 'long ago' }))
    await wait(1000)
    await act(async () => now.change({ rhyme: 'else' }))
    act(() => root.unmount())
    root = createRoot(document.createElement('div'))
    const theirs = card(2, { rhyme: 'long ago' })
    save.mockRejectedValueOnce(new CallError(409, { conflict: { fields: ['rhyme'], by: 'me', theirs } }))
    save.mockImplementation((_, __, content) => Promise.resolve(card(3, content)))
    await show(theirs)
    expect(now.draft.rhyme).toBe('else')
    await wait(1000)
    await wait(1000)
    expect(save.mock.calls.at(-1)?.[1]).toBe(2)
    expect(save.mock.calls.at(-1)?.[2].rhyme).toBe('else')
    expect([now.conflict, now.saving.kind]).toEqual([undefined, 'saved'])
  })
})
