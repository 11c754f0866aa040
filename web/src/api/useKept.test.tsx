// @vitest-environment happy-dom
import { act } from 'react'
import { createRoot, type Root } from 'react-dom/client'
import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { useKept } from './useKept'

vi.mock('./shared', () => ({ useMe: () => ({ data: { member_id: 'me' } }) }))

type Form = { accent: string; names: boolean }
let kept: ReturnType<typeof useKept<Form>>
let root: Root
function Page({ standing }: { standing: Form }) {
  // The test types from outside.
  // eslint-disable-next-line react-hooks/globals
  kept = useKept<Form>('agreed', standing)
  return null
}
const south = { accent: 'south', names: false }
const open = (standing: Form) => {
  root = createRoot(document.createElement('div'))
  return act(async () => root.render(<Page standing={standing} />))
}
const leave = () => act(async () => root.unmount())

beforeEach(() => {
  ;(globalThis as Record<string, unknown>).IS_REACT_ACT_ENVIRONMENT = true
  localStorage.clear()
})
afterEach(() => vi.restoreAllMocks())

it('is there again after the page was left, until it is settled', async () => {
  await open(south)
  expect(kept.dirty).toBe(false)
  await act(async () => kept.set({ ...south, names: true }))
  await leave()
  await open(south)
  expect(kept).toMatchObject({ value: { accent: 'south', names: true }, dirty: true, others: false })
  await act(async () => kept.settle())
  await leave()
  await open(south)
  expect(kept).toMatchObject({ value: south, dirty: false })
  await leave()
})

it('says that others have changed what stands, and keeps what was typed', async () => {
  await open(south)
  await act(async () => kept.set({ ...south, names: true }))
  await leave()
  await open({ accent: 'north', names: false })
  expect(kept).toMatchObject({ value: { accent: 'south', names: true }, dirty: true, others: true })
  await leave()
})

it('forgets a change that was taken back by hand, or that stands by now', async () => {
  await open(south)
  await act(async () => kept.set({ ...south, names: true }))
  await act(async () => kept.set(south))
  expect(kept.dirty).toBe(false)
  expect(localStorage.length).toBe(0)
  await leave()
})

it('works where the browser keeps nothing', async () => {
  vi.spyOn(Storage.prototype, 'setItem').mockImplementation(() => {
    throw new DOMException('full', 'QuotaExceededError')
  })
  await open(south)
  await act(async () => kept.set({ ...south, names: true }))
  expect(kept.dirty).toBe(true)
  await leave()
})
