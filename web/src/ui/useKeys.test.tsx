// @vitest-environment happy-dom
import { act } from 'react'
import { createRoot, type Root } from 'react-dom/client'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { switchSingleKeys } from './shortcuts'
import { useKeys } from './useKeys'

let root: Root
let box: HTMLElement
const record = vi.fn()

function Probe() {
  const here = useKeys({ r: record, x: undefined, ' ': record, Enter: record, ArrowLeft: record })
  return (
    <>
      <div ref={here}>
        <button id="in">in</button>
        <input id="field" />
        <a id="link" href="#there">
          there
        </a>
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
  it('leave Enter and Space to what has the focus', () => {
    for (const key of ['Enter', ' ']) expect(press('in', key).defaultPrevented).toBe(false)
    expect(press('link', 'Enter').defaultPrevented).toBe(false)
    expect(record).not.toHaveBeenCalled()
    press('link', ' ') // does nothing on a link
    press('', 'Enter')
    expect(record).toHaveBeenCalledTimes(2)
  })
  it('can be switched off, but for the arrows', () => {
    switchSingleKeys(false)
    press('', 'r')
    expect(record).not.toHaveBeenCalled()
    press('', 'ArrowLeft')
    expect(record).toHaveBeenCalledTimes(1)
    switchSingleKeys(true)
    press('', 'r')
    expect(record).toHaveBeenCalledTimes(2)
  })
})
