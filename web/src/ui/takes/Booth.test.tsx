// @vitest-environment happy-dom
import { act } from 'react'
import { createRoot, type Root } from 'react-dom/client'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { CallError } from '../../api/client'
import { Booth } from './Booth'

const add = {
  mutate: vi.fn(),
  isPending: false,
  error: null as Error | null,
  variables: undefined as object | undefined,
}
const idle = { mutate: vi.fn(), error: null, isPending: false }
vi.mock('./api', () => ({
  useTakes: () => ({ data: [] }),
  useShelf: () => ({ data: undefined }),
  useTakeCalls: () => ({ add, choose: idle, withdraw: idle, fix: idle, reuse: idle }),
  soundOf: () => '',
  cardSound: () => '',
}))
vi.mock('../../api/shared', () => ({ useMe: () => ({ data: { member_id: 'me' } }) }))
vi.mock('./RoomCheck', () => ({ RoomCheck: () => null }))
let handOver: (wav: ArrayBuffer) => void
vi.mock('./useMicrophone', () => ({
  useMicrophone: (onTake: (wav: ArrayBuffer) => void) => {
    handOver = onTake
    return {
      state: { kind: 'open' },
      level: 0,
      devices: [],
      deviceId: '',
      record: vi.fn(),
      stop: vi.fn(),
      open: vi.fn(),
    }
  },
}))

let root: Root
let box: HTMLElement
const show = (cardId: string) =>
  act(async () => root.render(<Booth cardId={cardId} takeId="" speakerName="Odile" mayRecord mayChoose />))
const press = (text: string) =>
  act(async () => [...box.querySelectorAll('button')].find((b) => b.textContent.includes(text))?.click())

beforeEach(() => {
  ;(globalThis as Record<string, unknown>).IS_REACT_ACT_ENVIRONMENT = true
  Object.assign(add, { error: null, variables: undefined })
  add.mutate.mockReset()
  box = document.createElement('div')
  root = createRoot(box)
})
afterEach(() => act(() => root.unmount()))

describe('a recording in the booth', () => {
  it('belongs to the card for which it was begun', async () => {
    await show('m')
    await press('Record')
    await show('s') // on to the next card while it runs
    await act(async () => handOver(new ArrayBuffer(50)))
    expect(add.mutate.mock.calls[0]![0]).toMatchObject({ cardId: 'm', speaker: 'Odile', consent: false })
  })

  it('is kept where it was refused, and is not offered to another card', async () => {
    const wav = new ArrayBuffer(50)
    Object.assign(add, {
      error: new CallError(422, { detail: 'Tick that the speaker agrees.', field: 'consent' }),
      variables: { cardId: 'm', wav },
    })
    await show('m')
    expect(box.textContent).toContain('Tick that the speaker agrees.')
    await press('Send it again')
    expect(add.mutate.mock.calls[0]![0]).toMatchObject({ cardId: 'm', wav })
    await show('s')
    expect(box.textContent).not.toContain('Send it again')
  })
})
