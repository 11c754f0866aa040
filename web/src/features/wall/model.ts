import type { WallCard } from '../../api/client'

export type Standing = 'taught' | 'next' | 'later'
export type Filter = { state: 'any' | WallCard['state']; needs: string; text: string }

export const everything = { state: 'any', needs: 'any', text: '' } as const satisfies Filter

const states = ['any', 'draft', 'in review', 'agreed'] as const

/** The filter that an address asks for; what it does not know is read as everything. */
export const filterOf = (asked: Record<keyof Filter, string>): Filter => ({
  state: states.find((s) => s === asked.state) ?? 'any',
  needs: asked.needs in needs ? asked.needs : 'any',
  text: asked.text,
})

/** What a filter on the wall can ask for; the words stand in "Cards that need …". */
export const needs: Record<string, string> = {
  any: 'anything',
  something: 'something still',
  take: 'a recorded sound',
  picture: 'a picture',
  rhyme: 'a rhyme',
  action: 'an action',
  words: 'words',
  sentence: 'a sentence',
  mending: 'mending',
}

export function matches(card: WallCard, f: Filter): boolean {
  const gaps = card.gaps
  if (f.state !== 'any' && card.state !== f.state) return false
  if (f.needs === 'something' && gaps.length === 0) return false
  if (f.needs === 'mending' && card.remarks === 0) return false
  if (!['any', 'something', 'mending'].includes(f.needs) && !gaps.some((g) => g.part === f.needs)) return false
  const text = f.text.trim().toLowerCase()
  return (
    text === '' ||
    card.pair.grapheme.startsWith(text) ||
    `${card.keyword} ${card.rhyme} ${card.kind}`.toLowerCase().includes(text)
  )
}

/** Which side of the cards is shown; the words stand in "showing …". */
export const sides = { letters: 'letters', pictures: 'pictures', both: 'both' } as const
export type Side = keyof typeof sides
export const sideOf = (text: string | null): Side => (text === 'pictures' || text === 'both' ? text : 'letters')

export const ledgeSize = 4

export type Ledge = { week: number; cards: WallCard[] }

/** Cards stand on ledges, one ledge a week of the order; a filter leaves gaps out. */
export function ledges(cards: readonly WallCard[], f: Filter): Ledge[] {
  const out = new Map<number, WallCard[]>()
  for (const c of cards) {
    if (!matches(c, f)) continue
    const week = Math.ceil(c.step / ledgeSize)
    out.set(week, [...(out.get(week) ?? []), c])
  }
  return [...out].map(([week, list]) => ({ week, cards: list }))
}

export function standing(card: WallCard, taught: ReadonlySet<string> | undefined, next: string | undefined): Standing {
  if (!taught) return 'taught'
  if (taught.has(card.card_id)) return 'taught'
  return card.card_id === next ? 'next' : 'later'
}

/**
 * The card to focus when an arrow key is pressed: left and right along the order, up and down to the nearest on the
 * next ledge.
 */
export function step(rows: readonly Ledge[], at: string, key: string): string | undefined {
  const r = rows.findIndex((row) => row.cards.some((c) => c.card_id === at))
  const row = rows[r]
  if (!row) return rows[0]?.cards[0]?.card_id
  const i = row.cards.findIndex((c) => c.card_id === at)
  const flat = rows.flatMap((x) => x.cards)
  const k = flat.findIndex((c) => c.card_id === at)
  switch (key) {
    case 'ArrowRight':
      return flat[k + 1]?.card_id
    case 'ArrowLeft':
      return flat[k - 1]?.card_id
    case 'ArrowDown': {
      const below = rows[r + 1]?.cards
      return (below?.[i] ?? below?.at(-1))?.card_id
    }
    case 'ArrowUp': {
      const above = rows[r - 1]?.cards
      return (above?.[i] ?? above?.at(-1))?.card_id
    }
  }
  return undefined
}
