import { describe, expect, it } from 'vitest'
import type { Lesson, Step } from '../../api/client'
import { clock } from '../../ui/clock'
import { measures } from './model'

const step = (seconds: number): Step => ({
  kind: `k${seconds}`,
  name: '',
  family: 'eye',
  seconds,
  adult: [],
  class: [],
  table: [],
  cautions: [],
  choices: [],
})
const lesson = (minutes: number, ...seconds: number[]) =>
  ({ minutes, seconds: seconds.reduce((a, b) => a + b, 0), steps: seconds.map(step) }) as Lesson

describe('the score', () => {
  it('gives each step the width of its seconds', () => {
    const { bars, end, over } = measures(lesson(10, 300, 300))
    expect(bars.map((b) => b.share)).toEqual([0.5, 0.5])
    expect(bars[1]?.from).toBe(300)
    expect(end).toBe(1)
    expect(over).toBe(0)
  })

  it('runs over the double bar when it is too long', () => {
    const { end, over } = measures(lesson(10, 600, 600))
    expect(end).toBe(0.5)
    expect(over).toBe(600)
  })

  it('writes times', () => {
    expect([0, 65, 600].map(clock)).toEqual(['0:00', '1:05', '10:00'])
  })
})
