import settings from '../../api/conventions.json'
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

/** Who speaks the items of a step in turn, as one choice. */
export const turns: [string, string][] = [
  ['', 'the class speaks'],
  ['adult,both,class', 'you, together, the class'],
  ['both,class', 'together, then the class'],
  ['class,silently', 'the class, then silently'],
]

/** The options of a step with some changed; what is left as usual is not kept. */
export function optionsWith(
  now: RoutineStep['options'],
  part: Partial<NonNullable<RoutineStep['options']>>,
): NonNullable<RoutineStep['options']> {
  const usual = (v: unknown) => v === '' || v === undefined || (Array.isArray(v) && v.length === 0)
  return Object.fromEntries(Object.entries({ ...now, ...part }).filter(([, v]) => !usual(v)))
}

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

/** A convention that is a switch, a choice or a wording, as the core describes it. */
export type Setting = (typeof settings)[number]
export { settings }

type Value = string | boolean | string[] | undefined

/** The value at a path such as says.signs.adult. */
export function valueAt(c: Conventions, key: string): Value {
  let at: unknown = c
  for (const part of key.split('.')) at = (at as Record<string, unknown> | undefined)?.[part]
  return at as Value
}

/** The conventions with another value at a path. */
export function withValue(c: Conventions, key: string, value: Value): Conventions {
  const set = (at: Record<string, unknown> | undefined, [part = '', ...rest]: string[]): Record<string, unknown> => ({
    ...at,
    [part]: rest.length ? set(at?.[part] as Record<string, unknown> | undefined, rest) : value,
  })
  return set(c, key.split('.')) as Conventions
}

/** Whether a setting is asked: some hang on a switch. */
export const isAsked = (c: Conventions, s: Setting) => !s.needs || Boolean(valueAt(c, s.needs))

/** What holds, in words. */
export function wordsFor(c: Conventions, s: Setting): string {
  const value = valueAt(c, s.key)
  if (s.kind === 'switch') return value ? 'yes' : `no: ${s.otherwise}`
  if (s.kind === 'choice') return s.choices?.find((o) => o.value === (value || s.default))?.label ?? String(value)
  const text = Array.isArray(value) ? value.join(', ') : String(value ?? '')
  return text || s.otherwise
}

/** What was agreed, as lines to read: what it is about, and what holds. */
export function agreedLines(c: Conventions, vocabulary: Vocabulary | undefined): [string, string][] {
  const lines: [string, string][] = [
    ['Accent', vocabulary?.accents.find((a) => a.id === c.accent)?.name ?? c.accent],
    ...settings.filter((s) => isAsked(c, s)).map((s): [string, string] => [s.label, wordsFor(c, s)]),
  ]
  if (c.together?.length) lines.push(['Taught with all their sounds at once', c.together.join(', ')])
  if (c.lines) {
    const { top, middle, base, drop } = c.lines
    lines.push(['Writing lines', [top, middle, base, drop].map((l) => l.name).join(', ')])
    lines.push(['Letters', c.lines.style === 'lead-in' ? 'with a lead-in from the base line' : 'print, from the top'])
  }
  lines.push(['Trays and materials', c.materials?.length ? c.materials.join(', ') : 'all that the steps offer'])
  lines.push(['Which material', c.one_material ? 'the first of these every day' : 'another one each day'])
  for (const m of c.says?.materials ?? []) lines.push([`Our own material: ${m.name}`, m.caution])
  if (c.allowed?.length) lines.push(['Words that we allow all the same', c.allowed.join(', ')])
  for (const d of c.departures ?? []) lines.push([`We say “${d.word}” differently`, d.note || 'in another accent'])
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
