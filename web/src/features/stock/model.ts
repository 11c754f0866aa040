import type { Book, Tried } from './api'

/** The sounds of a word with one part said otherwise. */
export const saidOtherwise = (parts: Tried['parts'], at: number, sound: string) =>
  parts.map((p, i) => (i === at ? sound : p.sound)).join('')

/** A day as it is said. */
const day = (iso: string) =>
  new Date(`${iso}T12:00:00`).toLocaleDateString(undefined, { day: 'numeric', month: 'long' })

/** From when a class can read something, as it is said. */
export const fromWhen = (now: boolean, from: string) =>
  now ? 'can be read today' : from ? `from the week of ${day(from)}` : 'not within the plan'

export const bookWhen = (b: Book) => fromWhen(b.ready === b.pages.length, b.from)
