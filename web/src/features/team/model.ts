import type { JobAsk } from '../../api/jobs'
import type { Conventions, Routine, Vocabulary } from '../../api/client'

export type Departure = NonNullable<Conventions['departures']>[number]
export type RoutineStep = Routine['steps'][number]

/** Layouts of all cards: a size with its ways to print. */
export const prints: [string, [string, JobAsk][]][] = [
  [
    '90 by 120 mm',
    [
      ['Two-sided', { kind: 'cards', layout: 'duplex' }],
      ['To fold', { kind: 'cards', layout: 'fold' }],
      ['One side', { kind: 'cards', layout: 'single' }],
    ],
  ],
  [
    '60 by 80 mm',
    [
      ['Two-sided', { kind: 'cards', layout: 'duplex', small: true }],
      ['To fold', { kind: 'cards', layout: 'fold', small: true }],
      ['One side', { kind: 'cards', layout: 'single', small: true }],
    ],
  ],
  ['For the wall', [['Frieze', { kind: 'cards', layout: 'frieze' }]]],
]

/** What a team says yes or no to, with what holds otherwise. */
export const switches: [keyof Conventions, string, string][] = [
  ['letter_names', 'Letter names from day one', 'otherwise only the sound is said'],
  ['capitals', 'Capitals with the small letter', 'otherwise as a set later'],
  ['groups_first', 'Look for letter groups first', 'otherwise sound out from left to right'],
  ['doubles_apart', 'Doubled letters have cards of their own', 'otherwise a class that knows b reads rabbit'],
  ['written_words', 'Words on the board in the team’s own strokes', 'otherwise in the font; never both in one word'],
  ['whole_by_sight', 'Exception words as wholes', 'otherwise the odd part is marked'],
]

type Says = NonNullable<Conventions['says']>

/** What is the team's words, with ours as a hint. */
export const says: [keyof Says, string, string][] = [
  ['posture', 'Before writing', 'nothing is said'],
  ['mistake', 'When something is written wrong', 'say the sound again, cross it out, write it beside'],
  ['checks', 'Checks of a sentence', 'capital, spaces, stop, letter groups'],
  ['gesture', 'A gesture for the sounds of a word', 'none'],
]

/** Our signs for who speaks, with those that hold where the team wrote none. */
export const signs: [keyof NonNullable<Says['signs']>, string, string][] = [
  ['adult', 'Sign: I speak', 'hand on your chest'],
  ['both', 'Sign: all together', 'arms open wide'],
  ['class', 'Sign: the class speaks', 'an open hand towards them'],
  ['silently', 'Sign: silently, then aloud', 'a finger on closed lips, then open it'],
]

/** Who speaks the items of a step in turn, as one choice. */
export const turns: [string, string][] = [
  ['', 'the class speaks'],
  ['adult,both,class', 'you, together, the class'],
  ['both,class', 'together, then the class'],
  ['class,silently', 'the class, then silently'],
]

/** Further things to say yes or no to. */
export const yesses: [keyof Says, string][] = [
  ['one_side_first', 'The pack shows all pictures first, then all letters'],
  ['guess_title', 'The title of a page is guessed first'],
  ['pick_answers', 'Questions have three answers to pick from'],
]

/** The options of a step with some changed; what is left as usual is not kept. */
export function optionsWith(
  now: RoutineStep['options'],
  part: Partial<NonNullable<RoutineStep['options']>>,
): NonNullable<RoutineStep['options']> {
  const usual = (v: unknown) => v === '' || v === undefined || (Array.isArray(v) && v.length === 0)
  return Object.fromEntries(Object.entries({ ...now, ...part }).filter(([, v]) => !usual(v)))
}

export const units: [keyof Conventions['units'], string][] = [
  ['qu_two', 'q and u are two units'],
  ['nk_one', 'nk is one unit'],
  ['doubles_two', 'double letters are two units'],
  ['x_one', 'x counts as one sound'],
  ['yoo_two', 'the yoo of mule counts as two sounds'],
]

/** The list with one entry changed. */
export const changed = <T>(list: readonly T[], at: number, part: Partial<T>): T[] =>
  list.map((x, i) => (i === at ? { ...x, ...part } : x))

/** The list with one entry moved by so many places. */
export function moved<T>(list: readonly T[], at: number, by: number): T[] {
  const next = [...list]
  const [one] = next.splice(at, 1)
  if (one !== undefined) next.splice(Math.max(0, at + by), 0, one)
  return next
}

/** The allowed words with one more, in small letters and once. */
export function allowing(list: readonly string[], word: string): string[] {
  const w = word.trim().toLowerCase()
  return w === '' || list.includes(w) ? [...list] : [...list, w]
}

/** The materials that stay when one is chosen or dropped; none chosen means all. */
export function materialsWith(
  all: readonly string[],
  chosen: readonly string[] | undefined,
  name: string,
  on: boolean,
): string[] {
  const now = chosen?.length ? chosen : all
  return all.filter((n) => (n === name ? on : now.includes(n)))
}

/** What was agreed, as lines to read: what it is about, and what holds. */
export function agreedLines(c: Conventions, vocabulary: Vocabulary | undefined): [string, string][] {
  const lines: [string, string][] = [
    ['Accent', vocabulary?.accents.find((a) => a.id === c.accent)?.name ?? c.accent],
    ...switches.map(([key, label, otherwise]): [string, string] => [
      label,
      c[key] ? 'yes' : `no: ${otherwise.replace(/^otherwise /, '')}`,
    ]),
    [
      'What counts as one unit',
      units
        .filter(([key]) => c.units[key])
        .map(([, label]) => label)
        .join('; ') || 'single letters and letter groups only',
    ],
  ]
  if (c.together?.length) lines.push(['Taught with all their sounds at once', c.together.join(', ')])
  if (c.lines)
    lines.push([
      'Writing lines',
      [c.lines.top, c.lines.middle, c.lines.base, c.lines.drop].map((l) => l.name).join(', '),
    ])
  lines.push(['Trays and materials', c.materials?.length ? c.materials.join(', ') : 'all that the steps offer'])
  for (const [key, label] of says) {
    const text = c.says?.[key]
    if (typeof text === 'string' && text) lines.push([label, text])
  }
  if (c.allowed?.length) lines.push(['Words that we allow all the same', c.allowed.join(', ')])
  for (const d of c.departures ?? []) lines.push([`We say “${d.word}” differently`, d.note || 'in another accent'])
  lines.push(['Paper', c.paper])
  return lines
}

const browsers = [
  ['Edg/', 'Edge'],
  ['Firefox/', 'Firefox'],
  ['Chrome/', 'Chrome'],
  ['Safari/', 'Safari'],
] as const
const systems = ['Windows', 'Android', 'iPhone', 'iPad', 'Mac OS', 'Linux'] as const

/** A browser by what it calls itself, as people know it. */
export function browserOf(agent: string) {
  const browser = browsers.find(([sign]) => agent.includes(sign))?.[1] ?? 'A browser'
  const system = systems.find((s) => agent.includes(s))
  return system ? `${browser} on ${system}` : browser
}
