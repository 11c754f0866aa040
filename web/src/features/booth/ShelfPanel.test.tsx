// @vitest-environment happy-dom
import { act } from 'react'
import { createRoot, type Root } from 'react-dom/client'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import type { Shelf } from '../../ui/takes/model'
import { ShelfPanel } from './ShelfPanel'

const withdraw = { mutate: vi.fn(), isPending: false, error: null as Error | null, data: undefined as unknown }
vi.mock('./Renew', () => ({ Renew: () => null }))
vi.mock('../../ui/takes/api', () => ({ useWithdrawVoice: () => withdraw, cardSound: (id: string) => `/sound/${id}` }))
vi.mock('@tanstack/react-router', () => ({
  Link: ({ children }: { children: React.ReactNode }) => <a href="#x">{children}</a>,
}))

const card = (id: string, level: number, verdict = 'pure') => ({
  card_id: id,
  pair: { grapheme: id, sound: id },
  step: 1,
  mouth_cue: '',
  slip: '',
  key_word: '',
  take_id: `take-${id}`,
  speaker: 'A',
  verdict,
  level_lufs: level,
  snr_db: 40,
})
const shelf = (part: object = {}): Shelf =>
  ({
    cards: [card('m', -23), card('s', -28), { ...card('k', 0), take_id: '' }],
    evenness: {
      takes: 2,
      loudness_lufs: -23,
      loudness_spread: 5,
      noise_spread: 3,
      snr_median_db: 40,
      voices: [{ speaker: 'A', takes: 2 }],
      again: [{ card_id: 's', why: 'It is 5 LU softer than the others.' }],
      ...part,
    },
  }) as unknown as Shelf

let root: Root
let box: HTMLElement
const show = (s: Shelf, mayWithdraw = true) =>
  act(async () => root.render(<ShelfPanel shelf={s} mayWithdraw={mayWithdraw} />))
const press = (text: string) =>
  act(async () => [...box.querySelectorAll('button')].find((b) => b.textContent.includes(text))?.click())

beforeEach(() => {
  ;(globalThis as Record<string, unknown>).IS_REACT_ACT_ENVIRONMENT = true
  withdraw.mutate.mockReset()
  withdraw.data = undefined
  box = document.createElement('div')
  root = createRoot(box)
})
afterEach(() => act(() => root.unmount()))

describe('how the library sounds', () => {
  it('says how uneven it is and what to record again first', async () => {
    await show(shelf())
    expect(box.textContent).toContain('2 of 3 cards have a sound')
    expect(box.textContent).toContain('5.0 LU, a step that is heard')
    expect(box.textContent).toContain('It is 5 LU softer than the others.')
    await show(shelf({ loudness_spread: 0.4, again: [] }))
    expect(box.textContent).toContain('too little to be heard')
    expect(box.textContent).toContain('every agreed take is clean')
  })

  it('asks before it withdraws a voice, and says what is then missing', async () => {
    await show(shelf())
    await press('Withdraw this voice')
    expect(withdraw.mutate).not.toHaveBeenCalled()
    expect(box.textContent).toContain('2 cards are left without a sound')
    await press('Yes, remove them')
    expect(withdraw.mutate).toHaveBeenCalledWith('A')
    withdraw.data = { takes: 3, missing: [{ grapheme: 'm', sound: 'm' }] }
    await show(shelf())
    expect(box.textContent).toContain('3 takes are gone. Now without a sound: m')
  })

  it('offers no withdrawal to those who may not, and a hint where there is nothing', async () => {
    await show(shelf(), false)
    expect(box.textContent).not.toContain('Withdraw this voice')
    await show({ cards: [{ ...card('k', 0), take_id: '' }], evenness: shelf().evenness } as unknown as Shelf)
    expect(box.textContent).toContain('No card has a sound yet')
  })
})
