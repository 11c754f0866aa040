import { describe, expect, it } from 'vitest'
import type { Lesson, Step, WallCard } from '../../api/client'
import { clock } from '../../ui/clock'
import { along, lacks, measures, offers, onlyIn, withPurpose } from './model'

const step = (seconds: number): Step => ({
  id: `k${seconds}`,
  kind: `k${seconds}`,
  name: '',
  family: 'eye',
  seconds,
  adult: [],
  class: [],
  table: [],
  cautions: [],
  items: [],
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

const introduce = {
  purpose: 'introduce',
  name: 'introduce',
  about: '',
  least_targets: 1,
  most_targets: 4,
  minutes: 20,
} as const
const compare = {
  ...introduce,
  purpose: 'compare',
  name: 'compare',
  least_targets: 2,
  most_targets: 2,
  minutes: 25,
} as const

describe('the sentence that makes a lesson', () => {
  const wish = { classId: 'c', purpose: 'introduce', cards: ['a', 'b', 'd'], minutes: 20 } as const
  it('takes the sounds and minutes of its purpose', () => {
    const to = withPurpose({ ...wish, cards: [...wish.cards] }, compare)
    expect(to).toEqual({ classId: 'c', purpose: 'compare', cards: ['a', 'b'], minutes: 25 })
  })

  it('says what it lacks', () => {
    expect(lacks({ ...wish, cards: [] }, compare)).toBe('Choose 2 sounds.')
    expect(lacks({ ...wish, cards: ['a'] }, compare)).toBe('Choose one sound more.')
    expect(lacks({ ...wish, cards: ['a'] }, introduce)).toBe('')
    expect(lacks({ ...wish, classId: '', cards: ['a'] }, introduce)).toBe('Choose a class.')
  })

  it('offers what a class needs', () => {
    const day: Parameters<typeof offers>[0] = {
      class_id: 'c',
      name: 'Heron',
      kind: 'class',
      taught: 3,
      next: 'x',
      next_name: 'sh',
      due: ['a'],
      due_names: ['m'],
      again: [],
      again_names: [],
      focus: [],
      focus_names: [],
      last_name: 't',
      last_card: 'y',
    }
    const all = offers({ ...day, due: ['a'], due_names: ['m'] })
    expect(all.map((o) => o.name)).toEqual(['introduce sh', 't again', 'revise m'])
    const lapsed = offers({ ...day, again: ['z'], again_names: ['ai'] })
    expect(lapsed.map((o) => o.name)).toContain('ai again: forgotten twice')
    expect(lapsed[2]?.purpose).toBe('again')
    const group = offers({ ...day, kind: 'group', focus: ['p', 'q', 'r'], focus_names: ['a', 'b', 'c'] })
    expect(group[0]).toEqual({ name: 'catch up on a · b', purpose: 'catch-up', cards: ['p', 'q'] })
    expect(offers({ ...day, next: '', last_card: '', due: [], due_names: [] })).toEqual([])
  })
})

describe('two classes side by side', () => {
  it('names what only one of them knows', () => {
    const p = (grapheme: string, sound = grapheme) => ({ grapheme, sound })
    expect(onlyIn([p('a'), p('th', 'θ'), p('th', 'ð')], [p('a'), p('th', 'θ')])).toBe('th')
    expect(onlyIn([p('a')], [p('a')])).toBe('')
  })
})

it('brings along what is taught at once, each once', () => {
  const wall = [
    { card_id: 'a', along: ['a', 'b'] },
    { card_id: 'b', along: ['a', 'b'] },
    { card_id: 'c', along: ['c'] },
  ] as WallCard[]
  expect(along(['b'], wall)).toEqual(['a', 'b'])
  expect(along(['c', 'a', 'b'], wall)).toEqual(['c', 'a', 'b'])
  expect(along(['gone'], wall)).toEqual(['gone'])
})
