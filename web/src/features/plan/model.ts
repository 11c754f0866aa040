import type { WallCard } from '../../api/client'
import type { ClassYear, Forecast, Rule, School, YearDay, YearWeek } from './api'

export const rules: Record<Rule, { name: string; about: string }> = {
  shift: { name: 'shift all', about: 'everything after it comes one lesson later' },
  'drop-revision': {
    name: 'drop the revision day',
    about: 'its sound comes on the day that revises; later weeks stay',
  },
  'double-up': { name: 'double up', about: 'the next lesson takes two; later weeks stay' },
}

/** How many new sounds a week a class may take: as the school, as one of its year groups, or a number of its own. */
export const pacesOf = (school: Pick<School, 'per_week' | 'speeds'>) => [
  { speed: '', per_week: 0, says: `as the school: ${school.per_week}` },
  ...school.speeds.map((s) => ({ speed: s.name, per_week: 0, says: `as ${s.name}: ${s.per_week}` })),
  ...Array.from({ length: 10 }, (_, i) => ({ speed: '', per_week: i + 1, says: `${i + 1}, for this class only` })),
]

export const weekdays = ['Sunday', 'Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday']

const at = (date: string) => new Date(`${date}T12:00:00`)

// A formatter is dear to make, and a year asks for hundreds of dates.
const shortDate = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short' })
const longDate = new Intl.DateTimeFormat('en-GB', { weekday: 'long', day: 'numeric', month: 'long' })

/** 26 Nov. */
export const short = (date: string) => shortDate.format(at(date))

/** Thursday 26 November. */
export const long = (date: string) => longDate.format(at(date))

export const weekday = (date: string) => weekdays[at(date).getDay()] ?? ''

export const addDays = (date: string, n: number) => {
  const d = at(date)
  d.setDate(d.getDate() + n)
  return `${d.getFullYear()}-${String(d.getMonth() + 1).padStart(2, '0')}-${String(d.getDate()).padStart(2, '0')}`
}

export type Term = { name: string; weeks: YearWeek[] }

/** The weeks of a year by their terms; weeks between terms are left out, those without terms stand together. */
export function terms(year: Pick<ClassYear, 'weeks' | 'school'>): Term[] {
  if (year.school.school.terms.length === 0) return [{ name: 'This year', weeks: year.weeks }]
  const out: Term[] = []
  for (const w of year.weeks) {
    const last = out.at(-1)
    if (!w.term) {
      const holds = w.days.some((d) => d.kind === 'taught' || d.kind === 'lesson')
      if (holds) out.push({ name: 'outside the terms', weeks: [w] })
    } else if (last?.name === w.term) last.weeks.push(w)
    else out.push({ name: w.term, weeks: [w] })
  }
  return out
}

/** The week of a day, or the nearest that follows, or the last. */
export const weekOf = (year: ClassYear, date: string): YearWeek | undefined =>
  year.weeks.find((w) => date < addDays(w.monday, 7)) ?? year.weeks.at(-1)

export const find = (year: ClassYear, date: string): YearDay | undefined =>
  year.weeks.flatMap((w) => w.days).find((d) => d.date === date)

/** What is on a day, in words. */
export function said(day: YearDay, names: readonly string[]): string {
  const list = names.join(', ')
  if (day.kind === 'off') return day.name
  if (day.kind === 'lost') return day.name === 'lost' ? 'lost' : `lost: ${day.name}`
  if (day.silent) return 'nothing was logged'
  if (day.kind === 'empty') return ''
  if (day.purpose === 'catch-up' && day.kind === 'lesson') return `catches up on ${list}`
  if (day.purpose === 'introduce') return `${day.kind === 'taught' ? 'taught' : 'new'}: ${list}`
  return day.kind === 'taught' ? 'revised' : list ? `revises ${list}` : 'revises'
}

/** Whether a day could be lost: a lesson that is planned, or one of which nothing was logged. */
export const losable = (day: YearDay) => day.kind === 'lesson' || day.silent

export const names = (ids: readonly string[], cards: ReadonlyMap<string, WallCard>) =>
  ids.map((id) => cards.get(id)?.pair.grapheme ?? '?')

export type Line = { name: string; points: string; ends: string; last: { x: number; y: number; words: number } }

/** Curves of readable words over weeks in a box of a width and a height. */
export function curves(list: readonly Forecast[], width: number, height: number): { lines: Line[]; most: number } {
  const weeks = Math.max(1, ...list.map((f) => f.weeks.length))
  const most = Math.max(1, ...list.flatMap((f) => f.weeks.map((w) => w.words)))
  const round = 4 * niceStep(most / 4)
  const lines = list.map((f) => {
    const all = [f.now.words, ...f.weeks.map((w) => w.words)]
    while (all.length <= weeks) all.push(all.at(-1) ?? 0)
    const place = all.map((n, i) => ({ x: (i / weeks) * width, y: height - (n / round) * height, words: n }))
    return {
      name: f.name,
      points: place.map((p) => `${p.x.toFixed(1)},${p.y.toFixed(1)}`).join(' '),
      ends: f.ends,
      last: place.at(-1) ?? { x: 0, y: height, words: 0 },
    }
  })
  return { lines, most: round }
}

/** The least of 1, 2, 2.5, 5, 10, 20 … that is enough. */
function niceStep(least: number): number {
  const power = 10 ** Math.floor(Math.log10(Math.max(1, least)))
  return power * ([1, 2, 2.5, 5, 10].find((m) => m * power >= least) ?? 10)
}

/** What can be read at the end of a day, by a forecast. */
export function by(f: Forecast, date: string): { words: number; texts: number } {
  let texts = 0
  let words = f.now.words
  for (const w of f.weeks) {
    if (w.monday > date) break
    words = w.words
    texts += w.texts.length
  }
  return { words, texts }
}

/** Days off as runs: from, to, name, for a list that can be read. */
export function runs(days: readonly { date: string; name: string }[]): { from: string; to: string; name: string }[] {
  const out: { from: string; to: string; name: string }[] = []
  for (const d of days) {
    const last = out.at(-1)
    const goesOn =
      last?.name === d.name && [1, 2, 3].some((n) => addDays(last.to, n) === d.date && onlyWeekend(last.to, n))
    if (last && goesOn) last.to = d.date
    else out.push({ from: d.date, to: d.date, name: d.name })
  }
  return out
}

const onlyWeekend = (from: string, n: number) =>
  Array.from({ length: n - 1 }, (_, i) => at(addDays(from, i + 1)).getDay()).every((d) => d === 0 || d === 6)

/** All days from one to another, both among them, at most a hundred. */
export function daysBetween(from: string, to: string): string[] {
  const out: string[] = []
  for (let d = from; d <= to && out.length < 100; d = addDays(d, 1)) out.push(d)
  return out
}
