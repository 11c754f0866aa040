import type { WallCard } from '../../api/client'
import type { ClassView } from './api'

export type Tick = {
  card: WallCard
  state: 'logged' | 'said' | 'not yet' | 'unknown'
  sure: number | undefined
  /** How much of it is left: from 0 to 1, and in a word; nothing where it was never met. */
  left: { kept: number; fading: ClassView['cards'][number]['fading'] } | undefined
}

/** Each card of the order with where the class stands: logged, said to be known, met but not known, or not met. */
export function ticks(cards: readonly WallCard[], klass: ClassView): Tick[] {
  const met = new Map(klass.cards.map((c) => [c.card_id, c]))
  return cards.map((card) => {
    const k = met.get(card.card_id)
    if (!k) return { card, state: 'unknown', sure: undefined, left: undefined }
    const state = !k.readable ? 'not yet' : k.declared ? 'said' : 'logged'
    return { card, state, sure: k.sure, left: { kept: k.kept, fading: k.fading } }
  })
}

export const levels = ['not yet', 'shaky', 'sure', 'secure']

/** Words as typed, parted by spaces or commas, in small letters. */
export const wordsOf = (text: string): string[] =>
  text
    .toLowerCase()
    .split(/[\s,]+/)
    .filter(Boolean)
