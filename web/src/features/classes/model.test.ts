import { describe, expect, it } from 'vitest'
import type { WallCard } from '../../api/client'
import type { ClassView } from './api'
import { ticks, wordsOf } from './model'

describe('what a class knows', () => {
  it('tells four states apart', () => {
    const cards = ['a', 'b', 'c', 'd'].map((card_id) => ({ card_id }) as WallCard)
    const known = (card_id: string, declared: boolean, readable: boolean) => ({ card_id, declared, readable, sure: 2 })
    const klass = { cards: [known('a', false, true), known('b', true, true), known('c', false, false)] }
    expect(ticks(cards, klass as unknown as ClassView).map((t) => t.state)).toEqual([
      'logged',
      'said',
      'not yet',
      'unknown',
    ])
  })

  it('reads words as they are typed', () => {
    expect(wordsOf(' The, I  to')).toEqual(['the', 'i', 'to'])
  })
})
