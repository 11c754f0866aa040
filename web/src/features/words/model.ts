/** What the finder is asked; the field names are those of the call. */
export type Ask = {
  class: string
  card: string
  position: Position
  frame: string
  pictures: boolean
  sounds: number
  syllables: number
  familiarity: number
  no_homophones: boolean
  seed: number
}

export const positions = ['any', 'initial', 'medial', 'final'] as const
type Position = (typeof positions)[number]

export const games = ['chain', 'slips', 'compounds', 'rings'] as const
export type Game = (typeof games)[number]

/** The finder in the address: "next" is the class's next sound, "shape" the usual one of the tab. */
export const plainFind = {
  card: 'next',
  position: 'any',
  frame: 'shape',
  pictures: 'false',
  sounds: '0',
  syllables: '0',
  familiarity: '0',
  no_homophones: 'false',
  seed: '1',
}

const limits = ['frame', 'pictures', 'sounds', 'syllables', 'familiarity', 'no_homophones'] as const

/** The limits behind "more", all let go. */
export const noLimits = Object.fromEntries(limits.map((k) => [k, plainFind[k]])) as Partial<Ask>

/** Whether one of the limits behind "more" is set. */
export const limited = (at: Record<keyof typeof plainFind, string>): boolean =>
  limits.some((k) => at[k] !== plainFind[k])

const number = (text: string) => Number(text) || 0

/** One of the values, or the first where it is none of them. */
export const oneOf = <T extends string>(values: readonly [T, ...T[]], text: string): T =>
  values.find((v) => v === text) ?? values[0]

export const askOf = (
  at: Record<keyof typeof plainFind, string>,
  o: { class: string; next: string; made: boolean },
): Ask => ({
  class: o.class,
  card: at.card === 'next' ? o.next : at.card,
  position: oneOf(positions, at.position),
  frame: at.frame === 'shape' ? (o.made ? 'CVC' : '') : at.frame,
  pictures: at.pictures === 'true',
  sounds: number(at.sounds),
  syllables: number(at.syllables),
  familiarity: number(at.familiarity),
  no_homophones: at.no_homophones === 'true',
  seed: number(at.seed),
})

/** A change of what is asked, as the address holds it. */
export function askedOf(part: Partial<Ask>): Partial<Record<keyof typeof plainFind, string>> {
  const out: Record<string, string> = {}
  for (const [k, v] of Object.entries(part)) out[k] = String(v)
  return out
}

/** Picked words as one value of the address. */
export const listed = (words: readonly string[]) => words.join('~')
export const unlisted = (text: string) => (text === '' ? [] : text.split('~'))
