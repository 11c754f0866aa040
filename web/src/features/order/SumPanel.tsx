import { Link } from '@tanstack/react-router'
import type { WallCard } from '../../api/client'
import { useLook, type OrderLook } from './api'
import { curve, percent } from './model'

const width = 300
const height = 110

type Props = {
  look: OrderLook
  /** The best order that was found, where one was sought. */
  best: string[] | undefined
  now: string[]
  cards: ReadonlyMap<string, WallCard>
  changed: boolean
}

/** What the order comes to, beside the one that stands and the best that was found. */
export function SumPanel({ look, best, now, cards, changed }: Props) {
  const other = best?.some((id, i) => id !== now[i]) ? best : undefined
  const found = useLook(other).data
  const { before, after } = look
  const more = percent(before.sum, after.sum)
  const most = Math.max(1, ...before.weeks, ...after.weeks)
  return (
    <section
      aria-label="What the order comes to"
      className="flex flex-col gap-2 rounded-xl border-2 border-line bg-sheet p-4"
    >
      <h2 className="font-bold">
        {changed ? `${look.moved} moved, beside the order that stands` : 'The order that stands'}
      </h2>
      <svg
        viewBox={`0 -6 ${width} ${height + 10}`}
        role="img"
        aria-label={`Readable words over ${after.weeks.length} weeks: ${after.weeks.join(', ')}`}
      >
        <line x1="0" x2={width} y1={height} y2={height} className="stroke-line" />
        {other && found && (
          <polyline
            points={curve(found.after.weeks, most, width, height)}
            fill="none"
            strokeWidth="2.5"
            className="stroke-leaf [stroke-dasharray:2_5]"
          />
        )}
        <polyline
          points={curve(before.weeks, most, width, height)}
          fill="none"
          strokeWidth="2.5"
          className="stroke-brick [stroke-dasharray:7_5]"
        />
        {changed && (
          <polyline
            points={curve(after.weeks, most, width, height)}
            fill="none"
            strokeWidth="3.5"
            className="stroke-slate"
          />
        )}
      </svg>
      <p className="flex flex-wrap gap-x-4 text-xs">
        <span>┅ the order that stands</span>
        {changed && <span>━ this one</span>}
        {other && <span>┈ the best that was found</span>}
        <span className="text-soft">familiar words that can be read, week by week</span>
      </p>
      <table className="text-sm">
        <thead className="sr-only">
          <tr>
            <th>what</th>
            <th>as it stands</th>
            <th>this order</th>
          </tr>
        </thead>
        <tbody>
          <Row
            name="readable words, all steps added"
            was={before.sum}
            is={after.sum}
            changed={changed}
            note={changed ? `${more > 0 ? '+' : ''}${more} %` : ''}
          />
          <Row name="of them with pictures" was={before.pictures} is={after.pictures} changed={changed} />
          {[2, 4, 8]
            .filter((w) => w < before.weeks.length)
            .map((w) => (
              <Row
                key={w}
                name={`words by week ${w}`}
                was={before.weeks[w - 1] ?? 0}
                is={after.weeks[w - 1] ?? 0}
                changed={changed}
              />
            ))}
          <Row name="mixed up and too close" was={before.clashes} is={after.clashes} changed={changed} />
        </tbody>
      </table>
      {after.missing.length > 0 && (
        <details className="text-sm">
          <summary className="min-h-11 cursor-pointer content-center">
            {after.missing.length} spellings that many words need have no card
          </summary>
          <span className="font-child text-base">{after.missing.join(' · ')}</span>
        </details>
      )}
      {changed && <Passed look={look} cards={cards} />}
    </section>
  )
}

function Row({
  name,
  was,
  is,
  changed,
  note = '',
}: {
  name: string
  was: number
  is: number
  changed: boolean
  note?: string
}) {
  return (
    <tr className="border-b border-line">
      <th className="py-0.5 pr-2 text-left leading-tight font-normal">{name}</th>
      <td className="text-right whitespace-nowrap tabular-nums">{was.toLocaleString('en-GB')}</td>
      <td className="pl-3 text-right font-bold whitespace-nowrap tabular-nums">
        {changed && (
          <>
            {is > was ? '▲' : is < was ? '▼' : '='} {is.toLocaleString('en-GB')}
            {note && <span className="block">{note}</span>}
          </>
        )}
      </td>
    </tr>
  )
}

function Passed({ look, cards }: { look: OrderLook; cards: ReadonlyMap<string, WallCard> }) {
  if (look.passed.length === 0) return <p className="text-sm">No class has come to what moves.</p>
  return (
    <ul className="flex flex-col gap-1 text-sm" aria-label="Classes that have passed it">
      {look.passed.map((p) => (
        <li key={p.class.class_id}>
          <Link
            to="/classes/$classId"
            params={{ classId: p.class.class_id }}
            className="inline-flex min-h-11 items-center font-bold underline"
          >
            {p.class.name}
          </Link>
          {p.met > 0 && ` has met ${p.met} of what moves: nothing changes for it there.`}
          {p.behind.length > 0 && (
            <>
              {' '}
              Comes to it next:{' '}
              <span className="font-child text-base">
                {p.behind.map((id) => cards.get(id)?.pair.grapheme).join(', ')}
              </span>
              .
            </>
          )}
        </li>
      ))}
    </ul>
  )
}
