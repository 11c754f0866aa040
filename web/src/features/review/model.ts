import { diffWords } from 'diff'
import type { Content } from '../../api/client'
import { writtenFields } from '../../ui/fields'
import type { Remark, ReviewView } from './api'

/** A card in review, and who looks at it. */
export type Card = { id: string; view: ReviewView; mayEdit: boolean; me: string; initials: string[] }

export type Piece = { text: string; kind: 'same' | 'gone' | 'new' }

/** What changed between two wordings, word by word. */
export const pieces = (before: string, now: string): Piece[] =>
  diffWords(before, now).map((p) => ({ text: p.value, kind: p.added ? 'new' : p.removed ? 'gone' : 'same' }))

/** A written part of a card as one text; a list has a line for each item. */
export const wordingOf = (content: Content, field: string): string => {
  const value = content[field as keyof Content]
  return Array.isArray(value) ? value.join('\n') : typeof value === 'string' ? value : ''
}

/** Whether people write a part of a card, and may so propose another wording. */
export const isWritten = (field: string) => writtenFields.includes(field)

/** The threads beside a part of a card, each with its answers; open ones first. */
export const threadsOf = (remarks: readonly Remark[], field: string) =>
  remarks
    .filter((r) => r.field === field && r.parent_id === '')
    .map((first) => ({ first, answers: remarks.filter((r) => r.parent_id === first.remark_id) }))
    .sort((a, b) => Number(Boolean(a.first.settled_at)) - Number(Boolean(b.first.settled_at)))

/** The parts of a card in the order of the review: what changed, of which is talked first, then what else is talked about. */
export function partsOf(given: readonly string[], remarks: readonly Remark[]) {
  const about = [...new Set(remarks.filter((r) => r.parent_id === '' && !r.settled_at).map((r) => r.field))]
  const changed = [...given].sort((a, b) => Number(about.includes(b)) - Number(about.includes(a)))
  const talked = about.filter((f) => f !== '' && !changed.includes(f))
  const rest = [...writtenFields, 'picture', 'take', 'letter'].filter(
    (f) => !changed.includes(f) && !talked.includes(f),
  )
  return { changed, talked, rest }
}

/** Text in parts, with those who are named by @ and their initials. */
export function withNames(text: string, initials: readonly string[]): { text: string; name: boolean }[] {
  return text
    .split(/(@[\p{L}\p{N}]{1,8})/u)
    .filter(Boolean)
    .map((part) => ({
      text: part,
      name: part.startsWith('@') && initials.some((i) => i.toLowerCase() === part.slice(1).toLowerCase()),
    }))
}

const minute = 60_000

/** When something was said, as people say it. */
export function ago(at: string, now = Date.now()) {
  const passed = now - new Date(at).getTime()
  if (passed < minute) return 'just now'
  if (passed < 60 * minute) return `${Math.round(passed / minute)} min ago`
  if (passed < 24 * 60 * minute) return `${Math.round(passed / 60 / minute)} h ago`
  const days = Math.round(passed / minute / 60 / 24)
  if (days < 7) return days === 1 ? 'yesterday' : `${days} days ago`
  return new Date(at).toLocaleDateString('en-GB', { day: 'numeric', month: 'short', year: 'numeric' })
}
