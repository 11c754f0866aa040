import { describe, expect, it } from 'vitest'
import { mostTries, noBatch, reduce, type Batch, type Step } from './guided'

const walk = (b: Batch, ...steps: Step[]) => steps.reduce(reduce, b)
const begun = reduce(noBatch, { kind: 'begin', cards: ['s', 'a', 't'] })
const judged = (pure: boolean): Step[] => [{ kind: 'judged', pure, advice: pure ? '' : 'no uh' }, { kind: 'next' }]

describe('a batch by the light', () => {
  it('goes on by itself when a take is pure', () => {
    const b = walk(begun, ...judged(true))
    expect(b).toMatchObject({ phase: 'ready', queue: ['a', 't'], done: ['s'], tries: 0 })
  })
  it('tries a sound three times at most, then puts it off', () => {
    let b = begun
    for (let i = 1; i < mostTries; i++) {
      b = walk(b, ...judged(false))
      expect(b).toMatchObject({ phase: 'ready', queue: ['s', 'a', 't'], tries: i, advice: 'no uh' })
    }
    b = walk(b, ...judged(false))
    expect(b).toMatchObject({ phase: 'ready', queue: ['a', 't'], later: ['s'], done: [], tries: 0 })
  })
  it('ends behind the last sound', () => {
    const b = walk(begun, ...judged(true), { kind: 'later' }, ...judged(true))
    expect(b).toMatchObject({ phase: 'stopped', queue: [], done: ['s', 't'], later: ['a'] })
    expect(reduce(b, { kind: 'next' })).toBe(b)
  })
  it('does not take a late verdict for the next sound once it was stopped', () => {
    const b = walk(begun, { kind: 'stop' }, ...judged(true))
    expect(b).toMatchObject({ phase: 'stopped', queue: ['s', 'a', 't'], done: [] })
    expect(reduce(noBatch, { kind: 'begin', cards: [] }).phase).toBe('stopped')
  })
})
