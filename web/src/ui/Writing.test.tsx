// @vitest-environment happy-dom
import { act } from 'react'
import { createRoot, type Root } from 'react-dom/client'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { useWriter } from './useWriter'
import { Writing, type Written } from './Writing'

const line = (name: string, y: number, shown = true) => ({ name, colour: 'grey' as const, shown, y })
const stroke = (path: string, words: string, length = 1) => ({
  path,
  words,
  brief: words,
  length,
  heading: -90,
  start: { x: 0, y: 1 },
})
const t: Written = {
  text: 't',
  strokes: [
    stroke('M0 -1.6C0 -1 0 -0.5 0 0', 'Down the post.'),
    stroke('M-0.3 -1C0 -1 0.2 -1 0.4 -1', 'Lift, and across.'),
  ],
  lines: [line('top line', 2), line('middle line', 1), line('base line', 0), line('drop line', -1, false)],
  left: -0.3,
  right: 0.4,
  group: false,
  underline: -0.35,
}

type Writer = ReturnType<typeof useWriter>
let root: Root
let box: HTMLElement
let writer: Writer

function Probe({ written, mirrored }: { written: Written; mirrored?: boolean }) {
  // The test steers the pen from outside.
  // eslint-disable-next-line react-hooks/globals
  writer = useWriter(written)
  return <Writing written={written} writer={writer} hand="left" names {...(mirrored ? { mirrored } : {})} />
}

const written = () => [...box.querySelectorAll('[data-written=true]')].length
const show = (w: Written, mirrored = false) => act(async () => root.render(<Probe written={w} mirrored={mirrored} />))

beforeEach(() => {
  ;(globalThis as Record<string, unknown>).IS_REACT_ACT_ENVIRONMENT = true
  vi.useFakeTimers()
  vi.stubGlobal('matchMedia', () => ({ matches: true })) // no motion: the strokes stand at once, the pen still lifts
  vi.stubGlobal('requestAnimationFrame', (f: (t: number) => void) => setTimeout(() => f(0), 16))
  box = document.createElement('div')
  root = createRoot(box)
})
afterEach(() => {
  act(() => root.unmount())
  vi.useRealTimers()
  vi.unstubAllGlobals()
})

describe('a letter that is written', () => {
  it('stands on the lines that the team shows, with a number for each stroke', async () => {
    await show(t)
    expect(box.textContent).toContain('middle line')
    expect(box.textContent).not.toContain('drop line')
    expect(box.querySelectorAll('circle').length).toBe(2)
    expect(box.querySelector('svg')?.getAttribute('aria-label')).toBe('t on the writing lines, 2 strokes')
    expect(written()).toBe(0)
  })

  it('is written stroke by stroke and begins again after the last', async () => {
    await show(t)
    await act(async () => writer.step())
    expect(written()).toBe(1)
    await act(async () => writer.step())
    expect(written()).toBe(2)
    await act(async () => writer.step())
    expect(written()).toBe(1)
  })

  it('plays all strokes in order, and a new call stops the one before', async () => {
    await show(t)
    await act(async () => writer.play())
    expect(writer.at).toBe(0)
    await act(async () => void (await vi.advanceTimersByTimeAsync(600)))
    expect(writer.at).toBe(1)
    await act(async () => writer.play())
    await act(async () => writer.clear())
    await act(async () => void (await vi.advanceTimersByTimeAsync(2000)))
    expect(writer.at).toBe(-1)
  })

  it('is mirrored with readable numbers, and a group is underlined', async () => {
    await show({ ...t, text: 'th', group: true }, true)
    expect(box.innerHTML).toContain('scale(-1 1)')
    expect(box.querySelector('circle + text')?.getAttribute('transform')).toBe('scale(-1 1)')
    expect(box.innerHTML).toContain('M-0.3 0.35H0.4')
  })
})
