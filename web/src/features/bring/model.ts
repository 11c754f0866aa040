import type { BundleView, CardLine, Choice, TableLine, TableView } from './api'

export type Standing = CardLine['standing']

/** States by sign and word. */
export const standings: Record<Standing, { sign: string; word: string }> = {
  new: { sign: '+', word: 'new' },
  different: { sign: '≠', word: 'different' },
  same: { sign: '=', word: 'the same' },
  unfit: { sign: '✕', word: 'no place' },
}

const rank: Record<Standing, number> = { different: 0, new: 1, unfit: 2, same: 3 }

/** Cards with what needs a decision first, each group in the order of teaching. */
export const sorted = (cards: readonly CardLine[]) => [...cards].sort((a, b) => rank[a.standing] - rank[b.standing])

export const count = (lines: readonly { standing: Standing }[], standing: Standing) =>
  lines.filter((l) => l.standing === standing).length

/** How a card is taken; leave is not sent. */
export type How = Choice['cards'][number]['how'] | 'leave'

export type Picks = {
  how: Record<string, How>
  texts: boolean
  letters: boolean
  pictures: boolean
  routines: boolean
  conventions: boolean
  asAgreed: boolean
  voices: boolean
}

/** What is offered first: all that is new, and nothing of ours changed. Voices wait for a yes. */
export const firstPicks: Picks = {
  how: {},
  texts: true,
  letters: false,
  pictures: true,
  routines: false,
  conventions: false,
  asAgreed: false,
  voices: false,
}

export const howOf = (line: CardLine, picks: Picks): How =>
  line.standing === 'unfit' || line.standing === 'same'
    ? 'leave'
    : (picks.how[line.id] ?? (line.standing === 'new' ? 'add' : 'leave'))

/** The same way for all cards that can be taken so. */
export const forAll = (cards: readonly CardLine[], way: 'new' | 'gaps' | 'theirs' | 'none'): Record<string, How> =>
  Object.fromEntries(
    cards
      .filter((c) => c.standing === 'new' || c.standing === 'different')
      .map((c): [string, How] => {
        if (way === 'none') return [c.id, 'leave']
        if (c.standing === 'new') return [c.id, 'add']
        return [c.id, way === 'theirs' ? 'take' : way === 'gaps' && c.fills > 0 ? 'fill' : 'leave']
      }),
  )

/** What is asked of the server. */
export function choiceOf(view: BundleView, picks: Picks, lead: boolean): Choice {
  const fresh = (list: readonly { name: string; standing: Standing }[]) =>
    list.filter((l) => l.standing === 'new' || l.standing === 'different').map((l) => l.name)
  return {
    cards: view.cards.flatMap((c) => {
      const how = howOf(c, picks)
      return how === 'leave' ? [] : [{ id: c.id, how, version: c.version }]
    }),
    letters: picks.letters ? fresh(view.letters) : [],
    pictures: picks.pictures ? view.pictures.filter((p) => p.standing === 'new').map((p) => p.name) : [],
    texts: picks.texts,
    routines: lead && picks.routines ? (fresh(view.routines) as Choice['routines']) : [],
    conventions: lead && picks.conventions,
    as_agreed: lead && picks.asAgreed,
    voices: picks.voices,
  }
}

/** A count with its word. */
export const many = (n: number, one: string, more = `${one}s`) => `${n} ${n === 1 ? one : more}`

/** What a choice comes to, in words; empty where it takes nothing. */
export function sumOf(view: BundleView, choice: Choice): string {
  const parts = [
    [choice.cards.filter((c) => c.how === 'add').length, 'new card'],
    [choice.cards.filter((c) => c.how !== 'add').length, 'changed card'],
    [choice.texts ? count(view.texts, 'new') : 0, 'text'],
    [choice.letters.length, 'letter'],
    [choice.pictures.length, 'picture'],
    [choice.routines.length, 'routine'],
  ] as const
  const said = parts.filter(([n]) => n > 0).map(([n, word]) => many(n, word))
  return [...said, ...(choice.conventions ? ['their conventions'] : [])].join(', ')
}

/** The lines of a table that are taken unless somebody says otherwise: new ones without a doubt. */
export const offered = (lines: readonly TableLine[]) =>
  lines.filter((l) => l.standing === 'new' && !l.doubt).map((l) => l.row)

export const takable = (l: TableLine) => l.standing === 'new' || l.standing === 'different'

/** Columns as they are asked for after one was set; -1 takes it away. */
export function withColumn(view: TableView, key: string, at: number): Record<string, number> {
  const rest = Object.entries(view.columns).filter(([k, v]) => k !== key && v !== at)
  return Object.fromEntries(at < 0 ? rest : [...rest, [key, at]])
}

export const kinds = [
  { kind: 'words', name: 'Words' },
  { kind: 'sentences', name: 'Sentences' },
  { kind: 'cards', name: 'Whole cards' },
  { kind: 'order', name: 'An order' },
] as const
