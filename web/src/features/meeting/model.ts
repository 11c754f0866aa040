import type { WallCard } from '../../api/client'
import type { Sheet } from './api'

export const parts: Record<string, string> = {
  rhyme: 'the rhyme',
  action: 'the action',
  keyword: 'the keyword',
  picture: 'the picture',
  routine: 'the routine',
}

export const day = (date: string) =>
  new Date(date.length === 10 ? `${date}T12:00:00` : date).toLocaleDateString('en-GB', {
    weekday: 'short',
    day: 'numeric',
    month: 'short',
  })

/** Each card that was taught, with the version that each class was taught, the order of the wall. */
export function versions(sheet: Sheet, wall: readonly WallCard[]) {
  const by = new Map<string, Map<string, number>>()
  for (const t of sheet.taught) {
    const row = by.get(t.card_id) ?? new Map<string, number>()
    row.set(t.class_id, t.version)
    by.set(t.card_id, row)
  }
  return wall.flatMap((c) => {
    const row = by.get(c.card_id)
    return row ? [{ card: c, row, apart: new Set(row.values()).size > 1 }] : []
  })
}

/** Sentences for a list of gaps: "a picture, a rhyme". */
export const lacking = (gaps: readonly { text: string }[]) => gaps.map((g) => g.text.replace(/^needs /, '')).join(', ')
