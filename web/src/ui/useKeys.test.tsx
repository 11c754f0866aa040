import { act } from 'react'
import { createRoot, type Root } from 'react-dom/client'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { useKeys } from './useKeys'

let root: Root
let box: HTMLElement
const record = vi.fn()

function Probe() {
  const here = useKeys({ r: record, x: undefined })
  return (
    <>
      <div ref={here}>
        <button id="in">in</button>
        <input id="field" />
      </div>
      <button id="out">out</button>
    </>
  )
}

const press = (id: string, key: string, more: KeyboardEventInit = {}) => {
  const at = id ? box.querySelector(`#${id}`)! : document.body
  const e = new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true, ...more })
  at.dispatchEvent(e)
  return e
}

beforeEach(async () => {
  ;(globalThis as Record<string, unknown>).IS_REACT_ACT_ENVIRONMENT = true
  record.mockReset()
  box = document.createElement('div')
  document.body.append(box)
  root = createRoot(box)
  await act(async () => root.render(<Probe />))
})
afterEach(() => {
  act(() => root.unmount())
  box.remove()
})

describe('single keys', () => {
  it('work where the focus is nowhere or inside', () => {
    press('', 'r')
    expect(press('in', 'r').defaultPrevented).toBe(true)
    expect(record).toHaveBeenCalledTimes(2)
  })
  it('leave writing, other places, held keys and shortcuts of the browser alone', () => {
    press('field', 'r')
    press('out', 'r')
    press('in', 'r', { ctrlKey: true })
    press('in', 'r', { repeat: true })
    expect(press('in', 'x').defaultPrevented).toBe(false)
    expect(record).not.toHaveBeenCalled()
  })
})
