import { Link } from '@tanstack/react-router'
import type { WallCard } from '../../api/client'
import { Button } from '../../ui/parts'
import { asIn } from '../../ui/pair'
import { loseDay, type ClassYear } from './api'
import { find, long, losable, said, weekOf } from './model'

type Props = {
  year: ClassYear
  date: string
  cards: ReadonlyMap<string, WallCard>
  may: boolean
  onLose: (date: string) => void
}

/** One day of the year: what is on it, and what can be done with it. */
export function DayPanel({ year, date, cards, may, onLose }: Props) {
  const day = find(year, date)
  if (!day) return null
  const week = weekOf(year, date)
  const list = day.cards.flatMap((id) => cards.get(id) ?? [])
  return (
    <section
      aria-label="The day"
      aria-live="polite"
      className="sticky bottom-0 mt-3 flex flex-wrap items-center gap-x-4 gap-y-2 rounded-lg border-2 border-ink bg-sheet px-4 py-2"
    >
      <b>
        {long(day.date)}
        {week?.number ? `, week ${week.number}` : ''}
      </b>
      <span>
        {said(
          day,
          list.map((c) => `${c.pair.grapheme} ${asIn(c)}`),
        ) || 'no lesson'}
      </span>
      {day.moved_from && <span className="text-sm">moved from {long(day.moved_from)}</span>}
      <span className="ml-auto flex flex-wrap gap-2">
        {day.kind === 'lesson' && (
          <Link
            to="/lessons"
            search={day.purpose === 'introduce' && day.cards[0] ? { card: day.cards[0] } : {}}
            className="inline-flex min-h-11 items-center rounded-lg border-2 border-ink/70 bg-sheet px-3 font-bold hover:bg-marigold/25"
          >
            Make the lesson
          </Link>
        )}
        {may && losable(day) && (
          <Button look="danger" onClick={() => onLose(date)}>
            {day.silent ? 'It was lost' : 'This day is lost'}
          </Button>
        )}
        {may && day.kind === 'lost' && (
          <Button
            onClick={() => void loseDay(year.class.class_id, { date, rule: '', why: '', everyone: false, lost: false })}
          >
            Not lost, after all
          </Button>
        )}
      </span>
    </section>
  )
}
