import { useEffect, useMemo, useState } from 'react'
import type { WallCard } from '../../api/client'
import { Key } from '../../ui/parts'
import { useKeys } from '../../ui/useKeys'
import type { ClassYear, YearDay, YearWeek } from './api'
import { addDays, find, long, losable, names, said, short, terms } from './model'

type Cards = ReadonlyMap<string, WallCard>

const yearKeys = {
  ArrowRight: 'the next day',
  ArrowLeft: 'the day before',
  ArrowDown: 'a week on',
  ArrowUp: 'a week back',
  x: 'this day is lost',
}

type Props = {
  year: ClassYear
  cards: Cards
  at: string
  onDay: (date: string) => void
  onLose: ((date: string) => void) | undefined
}

/** The whole year on one page: a column for each term, a row for each week. */
export function YearView({ year, cards, at, onDay, onLose }: Props) {
  const [began] = useState(at)
  const [whole, setWhole] = useState(false)
  const columns = useMemo(() => terms(year), [year])
  // The term of the day is painted first; the others follow when the browser has a moment.
  const first = columns.find((t) => t.weeks.some((w) => w.days.some((d) => d.date === began))) ?? columns[0]
  const go = (by: number) => () => {
    let to = addDays(at, by)
    for (let i = 0; i < 80 && !find(year, to); i++) to = addDays(to, by > 0 ? 1 : -1)
    if (!find(year, to)) return
    onDay(to)
    document.getElementById(`day-${to}`)?.focus()
  }
  const shown = find(year, at)
  useEffect(() => {
    document.getElementById(`day-${began}`)?.scrollIntoView({ block: 'nearest' })
    requestAnimationFrame(() =>
      requestAnimationFrame(() => {
        performance.mark('year-painted')
        setTimeout(() => setWhole(true))
      }),
    )
  }, [began]) // what is far down in a narrow window is brought into it once
  const board = useKeys(
    {
      ArrowRight: go(1),
      ArrowLeft: go(-1),
      ArrowDown: go(7),
      ArrowUp: go(-7),
      x: onLose && shown && losable(shown) ? () => onLose(at) : undefined,
    },
    { repeat: true, says: yearKeys },
  )
  return (
    <div ref={board} className="flex flex-col gap-2">
      <div className="grid gap-x-6 gap-y-4 md:grid-cols-2 xl:grid-cols-3">
        {columns.map((t) => (
          <section key={t.weeks[0]?.monday} aria-label={t.name}>
            <h2 className="writing-line font-child text-2xl font-bold">{t.name}</h2>
            <div role="grid" aria-label={`Weeks of ${t.name}`} className="flex flex-col pt-1">
              {(whole || t === first ? t.weeks : []).map((w) => (
                <Week key={w.monday} week={w} today={year.today} at={at} cards={cards} onDay={onDay} />
              ))}
            </div>
          </section>
        ))}
      </div>
      <Legend />
    </div>
  )
}

function Week({
  week,
  today,
  at,
  cards,
  onDay,
}: {
  week: YearWeek
  today: string
  at: string
  cards: Cards
  onDay: (d: string) => void
}) {
  return (
    <div role="row" className="grid grid-cols-[3.6rem_repeat(5,minmax(0,1fr))] border-b border-line">
      <span role="rowheader" className="flex flex-col justify-center pr-1 text-right text-xs leading-tight text-soft">
        <b className="text-sm text-ink">{week.number || ''}</b>
        {short(week.monday)}
      </span>
      {week.days.map((d) => (
        <Cell key={d.date} day={d} today={d.date === today} at={d.date === at} cards={cards} onDay={onDay} />
      ))}
    </div>
  )
}

const looks: Record<YearDay['kind'], string> = {
  lesson: 'bg-sheet',
  taught: 'bg-mint/40',
  off: 'bg-ledge text-soft',
  lost: 'bg-coral/35 line-through',
  empty: 'bg-paper text-soft',
}

function Cell({
  day,
  today,
  at,
  cards,
  onDay,
}: {
  day: YearDay
  today: boolean
  at: boolean
  cards: Cards
  onDay: (d: string) => void
}) {
  const list = names(day.cards, cards)
  const fresh = day.purpose === 'introduce' && (day.kind === 'taught' || day.kind === 'lesson')
  return (
    <button
      type="button"
      role="gridcell"
      id={`day-${day.date}`}
      style={{ scrollMargin: '9rem' }}
      tabIndex={at ? 0 : -1}
      aria-selected={at}
      aria-label={`${long(day.date)}: ${said(day, list) || 'no lesson'}${today ? ', today' : ''}`}
      onClick={() => onDay(day.date)}
      className={`m-px flex min-h-11 items-center justify-center gap-1 overflow-hidden rounded-sm border px-0.5 leading-none ${looks[day.kind]} ${at ? 'border-ink outline-2 outline-ink' : 'border-transparent'} ${today ? 'ring-3 ring-marigold' : ''}`}
    >
      {fresh ? (
        <>
          {day.kind === 'taught' && <span className="text-xs">✓</span>}
          <span className={`truncate font-child font-bold ${list.join(' ').length > 4 ? 'text-base' : 'text-xl'}`}>
            {list.join(' ')}
          </span>
          {day.moved_from && <span className="text-xs">→</span>}
        </>
      ) : (
        <span className="truncate text-sm">
          {day.kind === 'lesson' && day.purpose === 'catch-up' ? list.join(' ') : sign(day)}
        </span>
      )}
    </button>
  )
}

function sign(day: YearDay): string {
  if (day.kind === 'off') return '·'
  if (day.kind === 'lost') return '×'
  if (day.silent) return '?'
  if (day.kind === 'taught') return '✓ ↻'
  return day.kind === 'lesson' ? '↻' : ''
}

function Legend() {
  const parts: [string, string, string][] = [
    ['sh', 'bg-sheet', 'new'],
    ['✓ sh', 'bg-mint/40', 'taught'],
    ['↻', 'bg-sheet', 'revises'],
    ['sh →', 'bg-sheet', 'moved'],
    ['×', 'bg-coral/35', 'lost'],
    ['·', 'bg-ledge', 'day off'],
    ['?', 'bg-paper', 'nothing was logged'],
  ]
  return (
    <p className="flex flex-wrap items-center gap-x-4 gap-y-1 text-sm">
      {parts.map(([signs, look, text]) => (
        <span key={text} className="flex items-center gap-1">
          <span
            aria-hidden
            className={`inline-flex min-h-6 min-w-9 items-center justify-center rounded-sm border border-line px-1 font-child ${look}`}
          >
            {signs}
          </span>
          {text}
        </span>
      ))}
      <span className="ml-auto text-soft max-lg:hidden">
        arrows move · <Key>x</Key> the day is lost
      </span>
    </p>
  )
}
