import { Link } from '@tanstack/react-router'
import type { WallCard } from '../../api/client'
import { JobButton } from '../../ui/jobs/JobButton'
import { Button, Key } from '../../ui/parts'
import { asIn } from '../../ui/pair'
import { useKeys } from '../../ui/useKeys'
import { loseDay, type ClassYear, type YearDay, type YearWeek } from './api'
import { losable, said, short, weekday } from './model'

type Cards = ReadonlyMap<string, WallCard>

const weekKeys = { '[': 'the week before', ']': 'the next week', t: 'this week', x: 'lost today' }

type Props = {
  year: ClassYear
  week: YearWeek
  cards: Cards
  may: boolean
  onGo: (by: number) => void
  onToday: () => void
  onLose: (date: string) => void
}

/** Five days, each with its sounds, large. */
export function WeekView({ year, week, cards, may, onGo, onToday, onLose }: Props) {
  useKeys(
    { '[': () => onGo(-1), ']': () => onGo(1), t: onToday, x: may ? () => onLose(year.today) : undefined },
    { everywhere: true, says: weekKeys },
  )
  const first = year.weeks[0]?.monday === week.monday
  const last = year.weeks.at(-1)?.monday === week.monday
  return (
    <section className="flex flex-col gap-3" aria-label={title(week)}>
      <div className="flex flex-wrap items-center gap-3">
        <Button aria-label="The week before" disabled={first} onClick={() => onGo(-1)}>
          ←
        </Button>
        <h2 className="writing-line min-w-64 text-center font-child text-3xl font-bold">{title(week)}</h2>
        <Button aria-label="The next week" disabled={last} onClick={() => onGo(1)}>
          →
        </Button>
        <Button onClick={onToday}>This week</Button>
        <JobButton ask={{ kind: 'sheets', class: year.class.class_id, date: week.monday, week: true }}>
          Print the week
        </JobButton>
        <JobButton ask={{ kind: 'sheets', date: week.monday, week: true }}>Print all classes</JobButton>
        {week.assess && <b>A week to look back: nothing new.</b>}
        <span className="ml-auto text-sm text-soft max-lg:hidden">
          <Key>[</Key> <Key>]</Key> weeks · <Key>t</Key> this week · <Key>x</Key> lost today
        </span>
      </div>
      <ol className="grid gap-3 sm:grid-cols-2 lg:auto-cols-fr lg:grid-flow-col lg:grid-cols-none">
        {week.days.map((d) => (
          <Day key={d.date} day={d} year={year} cards={cards} may={may} onLose={onLose} />
        ))}
      </ol>
    </section>
  )
}

const title = (w: YearWeek) => (w.number ? `${w.term}, week ${w.number}` : `Week of ${short(w.monday)}`)

const looks: Record<YearDay['kind'], string> = {
  lesson: 'border-ink bg-sheet',
  taught: 'border-leaf bg-mint/25',
  off: 'border-line bg-ledge/50 border-dashed',
  lost: 'border-brick bg-coral/15',
  empty: 'border-line bg-paper border-dashed',
}

function Day({
  day,
  year,
  cards,
  may,
  onLose,
}: {
  day: YearDay
  year: ClassYear
  cards: Cards
  may: boolean
  onLose: (date: string) => void
}) {
  const isToday = day.date === year.today
  const list = day.cards.flatMap((id) => cards.get(id) ?? [])
  const fresh = day.purpose === 'introduce'
  return (
    <li
      className={`flex min-h-64 flex-col gap-2 rounded-xl border-2 p-3 ${looks[day.kind]} ${isToday ? 'ring-4 ring-marigold' : ''}`}
      aria-current={isToday ? 'date' : undefined}
    >
      <p className="flex items-baseline justify-between gap-2">
        <b className="text-xl">{weekday(day.date)}</b>
        <span className="text-soft">{isToday ? `today, ${short(day.date)}` : short(day.date)}</span>
      </p>
      <p className="font-bold">{heading(day)}</p>
      <ul className={fresh ? 'flex flex-wrap gap-x-5 gap-y-1' : 'flex flex-wrap gap-x-3'}>
        {list.map((c) => (
          <li key={c.card_id}>
            <Link
              to="/cards/$cardId"
              params={{ cardId: c.card_id }}
              className="flex min-h-11 min-w-8 flex-col justify-center rounded-md hover:bg-marigold/25"
            >
              <span className={`font-child leading-tight ${fresh ? 'text-6xl' : 'text-2xl'}`}>{c.pair.grapheme}</span>
              {fresh && <span className="text-base">{asIn(c)}</span>}
              {fresh && day.kind === 'lesson' && c.state !== 'agreed' && (
                <span className="text-sm font-bold text-brick">card is {c.state}</span>
              )}
            </Link>
          </li>
        ))}
      </ul>
      {day.moved_from && (
        <p className="text-sm">
          moved from {weekday(day.moved_from)} {short(day.moved_from)}
        </p>
      )}
      <div className="mt-auto flex flex-wrap gap-2">
        {day.kind === 'lesson' && (
          <Link
            to="/lessons"
            search={fresh && day.cards[0] ? { card: day.cards[0] } : {}}
            className="inline-flex min-h-11 items-center rounded-lg border-2 border-ink/70 bg-sheet px-3 font-bold hover:bg-marigold/25"
          >
            Make the lesson
          </Link>
        )}
        {(day.kind === 'lesson' || day.kind === 'taught') && (
          <JobButton ask={{ kind: 'sheets', class: year.class.class_id, date: day.date }}>Print</JobButton>
        )}
        {may && losable(day) && (
          <Button look="quiet" className="px-1" onClick={() => onLose(day.date)}>
            {day.silent ? 'It was lost' : 'Lost'}
          </Button>
        )}
        {may && day.kind === 'lost' && (
          <Button
            onClick={() =>
              void loseDay(year.class.class_id, { date: day.date, rule: '', why: '', everyone: false, lost: false })
            }
          >
            Not lost, after all
          </Button>
        )}
      </div>
    </li>
  )
}

function heading(day: YearDay): string {
  if (day.kind === 'lesson') return { introduce: 'New', 'catch-up': 'Catch up' }[String(day.purpose)] ?? 'Revise'
  if (day.kind === 'taught') return day.purpose === 'introduce' ? '✓ taught' : '✓ revised'
  return said(day, [])
}
