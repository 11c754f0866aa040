// @vitest-environment happy-dom
import { act, cleanup, renderHook } from '@testing-library/react'
import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import type { LessonView, StepKind } from '../../api/client'
import { useHeld } from './useHeld'
import { emptyPack } from './usePreload'

const word = (value: string) => ({ slot: value, kind: 'word', value, because: {}, next: [] })
const step = (id: string) => ({
  id,
  kind: 'read',
  seconds: 60,
  adult: [],
  class: [],
  items: [word('mat'), word('sat')],
})
const view = {
  lesson_id: 'l1',
  lesson: { targets: [], minutes: 5, seconds: 120, cards: {}, word_bits: {}, steps: [step('one'), step('two')] },
} as unknown as LessonView
const kinds = [{ kind: 'read', shows: 'word', rank: 50 }] as unknown as StepKind[]

/** The lesson on a board that was opened from a file, so that nothing is asked of a server. */
const board = () => renderHook(() => useHeld(view, kinds, 'board', emptyPack())).result
const minutes = (n: number) => act(() => vi.advanceTimersByTime(n * 60_000))

beforeEach(() => {
  vi.useFakeTimers({ now: new Date('2026-12-01T09:00:00') })
  localStorage.clear()
})
afterEach(() => {
  cleanup()
  vi.useRealTimers()
})

it('begins at once, and goes on where it stood when the page is loaded again soon', () => {
  const first = board()
  act(() => first.current.on())
  cleanup()
  minutes(2)
  const again = board()
  expect(again.current.resumes).toBe(false)
  expect(again.current.at).toBe(1)
})

it('asks before it goes on after more than a quarter of an hour', () => {
  board()
  cleanup()
  minutes(14)
  expect(board().current.resumes).toBe(false)
  cleanup()
  minutes(30)
  expect(board().current.resumes).toBe(true)
})

it('stops the clock when somebody leaves, and asks when they come back', () => {
  const first = board()
  minutes(1)
  act(() => first.current.leave())
  expect(first.current.state.clock.runs).toBe(false)
  cleanup()
  minutes(3)
  const back = board()
  expect(back.current.resumes).toBe(true)
  expect(Math.round(back.current.seconds)).toBe(60)
  act(() => back.current.goOn())
  minutes(1)
  expect(Math.round(back.current.seconds)).toBe(120)
})

it('leaves a skipped step out, forwards and back', () => {
  const b = board()
  act(() => b.current.skip('two'))
  act(() => b.current.on())
  act(() => b.current.on())
  expect(b.current.over).toBe(true)
  expect(b.current.planned).toBe(60)
})

it('shows a word letter by letter, then whole', () => {
  const b = board()
  const bits = [{}, {}, {}]
  act(() => b.current.own({ word: 'mat', bits: bits as never }))
  const seen: (number | null)[] = []
  for (let i = 0; i < 4; i++) {
    act(() => b.current.letter())
    seen.push(b.current.place.shown)
  }
  expect(seen).toEqual([1, 2, 3, null])
})
