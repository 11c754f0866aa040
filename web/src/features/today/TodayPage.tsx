import { Link } from '@tanstack/react-router'
import { useMemo, useState, type ReactNode } from 'react'
import type { WallCard } from '../../api/client'
import { mayI, useClasses, useMe, useWall } from '../../api/shared'
import { fieldName } from '../../ui/fields'
import { asIn } from '../../ui/pair'
import { JobButton } from '../../ui/jobs/JobButton'
import { Button, Failed, Heading, Waiting } from '../../ui/parts'
import { useLooked, useSeen, useToday, type TodayView } from './api'
import { ClassBoard } from './ClassBoard'
import { dayFrom, did, sides, waitsFor } from './model'

/** The page of the morning: my classes, what waits for me, what changed, what the team owes. */
export function TodayPage() {
  const view = useToday()
  const wall = useWall()
  const me = useMe()
  const cards = useMemo(() => new Map((wall.data ?? []).map((c) => [c.card_id, c])), [wall.data])
  const error = view.error ?? wall.error
  if (error && !(view.data && wall.data)) return <Failed error={error} />
  if (!view.data || !wall.data || !me.data) return <Waiting what="Opening the shutters …" />
  const v = view.data
  const { first, rest } = sides(v.classes)
  const two = me.data.conventions.agreeing === 'two'
  return (
    <div className="mx-auto grid max-w-[90rem] grid-cols-[minmax(0,1fr)] gap-6 p-4 wrap-anywhere sm:p-5 lg:grid-cols-[minmax(0,1fr)_26rem]">
      <div className="flex min-w-0 flex-col gap-5">
        <div className="flex flex-wrap items-center justify-between gap-3">
          <Heading>{day(v.today)}</Heading>
          {v.classes.length > 0 && (
            <JobButton ask={{ kind: 'sheets', date: v.today }}>Print today’s sheets, all classes</JobButton>
          )}
        </div>
        {v.classes.length === 0 && (
          <p>
            There is no class yet.{' '}
            <Link to="/team" search={{ tab: 'classes' }} className="font-bold underline underline-offset-4">
              Add one
            </Link>
          </p>
        )}
        {first.map((c) => (
          <ClassBoard key={c.class.class_id} klass={c} today={v.today} cards={cards} />
        ))}
        {rest.length > 0 && (
          <details open={mayI(me.data.rights, 'agree')}>
            <summary className="min-h-11 cursor-pointer content-center text-lg font-bold">
              The other classes: {rest.map((c) => c.class.name).join(', ')}
            </summary>
            <div className="flex flex-col gap-5 pt-2">
              {rest.map((c) => (
                <ClassBoard key={c.class.class_id} klass={c} today={v.today} cards={cards} />
              ))}
            </div>
          </details>
        )}
      </div>
      <div className="flex min-w-0 flex-col gap-6">
        <Told view={v} />
        <Waits view={v} mayDecide={mayI(me.data.rights, two ? 'edit' : 'agree')} cards={cards} />
        <Owed view={v} cards={cards} />
        <Changes view={v} cards={cards} />
        <Link
          to="/audit"
          className="inline-flex min-h-11 items-center self-start font-bold underline decoration-line decoration-2 underline-offset-4 hover:decoration-ink"
        >
          Does the library agree with itself?
        </Link>
      </div>
    </div>
  )
}

const day = (date: string) =>
  new Date(`${date}T12:00:00Z`).toLocaleDateString('en-GB', { weekday: 'long', day: 'numeric', month: 'long' })

const line = 'flex min-h-11 items-center gap-3 rounded px-1 py-1 hover:bg-marigold/25'

type Named = { cards: ReadonlyMap<string, WallCard> }

const Big = ({ card }: { card: WallCard | undefined }) => (
  <b className="w-12 shrink-0 text-center font-child text-2xl">{card?.pair.grapheme}</b>
)

function Told({ view }: { view: TodayView }) {
  const seen = useSeen()
  const list = view.notices.filter((n) => n.kind !== 'asked' || !view.waiting.some((w) => w.card_id === n.card_id))
  if (list.length === 0) return null
  return (
    <Part
      title="For you"
      aside={
        <Button
          look="quiet"
          disabled={seen.isPending}
          onClick={() => seen.mutate(Math.max(...view.notices.map((n) => n.notice_id)))}
        >
          Seen all
        </Button>
      }
    >
      {list.map((n) => (
        <li key={n.notice_id}>
          <Link to="/cards/$cardId/review" params={{ cardId: n.card_id }} className={line}>
            <b className="w-12 shrink-0 text-center font-child text-2xl">{n.grapheme}</b>
            <span className="min-w-0">
              <b>{n.by}</b> {did(n)} {n.grapheme}
              {n.note && <span className="block truncate font-child text-soft">“{n.note}”</span>}
            </span>
          </Link>
        </li>
      ))}
    </Part>
  )
}

function Waits({ view, mayDecide, cards }: { view: TodayView; mayDecide: boolean } & Named) {
  const { me, others } = waitsFor(view.waiting, mayDecide)
  const row = (w: TodayView['waiting'][number], text: string) => (
    <li key={w.card_id}>
      <Link to="/cards/$cardId/review" params={{ cardId: w.card_id }} className={line}>
        <Big card={cards.get(w.card_id)} />
        <span className="min-w-0">
          {text}
          {w.note && <span className="block truncate font-child text-soft">“{w.note}”</span>}
        </span>
      </Link>
    </li>
  )
  return (
    <Part title="Waits for you" empty="No card waits for your word.">
      {me.map((w) => row(w, w.asked ? `${w.asked_by} asked you` : `put forward by ${w.asked_by}`))}
      {view.proposals > 0 && mayDecide && (
        <li key="order">
          <Link to="/order" className={line}>
            <b className="w-12 shrink-0 text-center text-2xl" aria-hidden>
              ⇅
            </b>
            {view.proposals === 1 ? 'A change of the order' : `${view.proposals} changes of the order`}
          </Link>
        </li>
      )}
      {me.length === 0 && view.proposals === 0 && others.length > 0 && (
        <li key="none" className="py-2 text-soft">
          ✓ No card waits for your word.
        </li>
      )}
      {others.length > 0 && (
        <li key="others">
          <details>
            <summary className="min-h-11 cursor-pointer content-center text-soft">
              {others.length} {others.length === 1 ? 'waits' : 'wait'} for others
            </summary>
            <ul>{others.map((w) => row(w, w.mine ? 'you put it forward' : `by ${w.asked_by}`))}</ul>
          </details>
        </li>
      )}
    </Part>
  )
}

function Owed({ view, cards }: { view: TodayView } & Named) {
  const classes = useClasses()
  const name = (id: string) => classes.data?.find((c) => c.class_id === id)?.name
  return (
    <Part title="Ready before its day" empty="Every card that comes within three weeks is ready.">
      {view.owed.map((u) => (
        <li key={u.card_id}>
          <Link to="/cards/$cardId" params={{ cardId: u.card_id }} className={line}>
            <Big card={cards.get(u.card_id)} />
            <span className="min-w-0">
              <b className="inline-block first-letter:uppercase">{dayFrom(u.on, view.today)}</b>, {name(u.class_id)}
              {u.by && `: ${u.by}`}
              <span className="block text-sm text-soft">
                {[u.state === 'agreed' ? '' : u.state, ...u.gaps.map((g) => g.text)].filter(Boolean).join(', ')}
              </span>
            </span>
          </Link>
        </li>
      ))}
    </Part>
  )
}

function Changes({ view, cards }: { view: TodayView } & Named) {
  const looked = useLooked()
  const since = dayFrom(view.since.slice(0, 10), view.today)
  return (
    <Part
      title="Changed since you looked"
      empty={`Nothing was changed by others since ${since}.`}
      aside={
        view.changed.length > 0 && (
          <Button look="quiet" disabled={looked.isPending} onClick={() => looked.mutate(view.until)}>
            I have looked
          </Button>
        )
      }
    >
      {view.changed.map((c) => (
        <li key={c.card_id}>
          <Link to="/cards/$cardId/review" params={{ cardId: c.card_id }} className={line}>
            <Big card={cards.get(c.card_id)} />
            <span className="min-w-0">
              <b>{c.by}</b>, {dayFrom(c.changed_at.slice(0, 10), view.today)}
              {c.agreed && ' ✓ agreed'}
              <span className="block truncate text-sm text-soft">
                {c.fields.map(fieldName).join(', ')}
                {view.remarks[c.card_id] ? `; ${view.remarks[c.card_id]} open threads` : ''}
              </span>
            </span>
            <span className="sr-only">{asInOf(cards.get(c.card_id))}</span>
          </Link>
        </li>
      ))}
    </Part>
  )
}

const asInOf = (c: WallCard | undefined) => (c ? asIn(c) : '')

type PartProps = { title: string; empty?: string; aside?: ReactNode; children: ReactNode }

const atFirst = 6

function Part({ title, empty, aside, children }: PartProps) {
  const [all, setAll] = useState(false)
  const list = (Array.isArray(children) ? children.flat() : [children]).filter(Boolean)
  return (
    <section className="flex flex-col gap-1">
      <div className="flex flex-wrap items-baseline justify-between gap-x-4">
        <Heading level={2}>{title}</Heading>
        {aside}
      </div>
      {list.length === 0 ? (
        <p className="text-soft">✓ {empty}</p>
      ) : (
        <ul className="divide-y divide-line">{list.slice(0, all ? undefined : atFirst)}</ul>
      )}
      {!all && list.length > atFirst && (
        <Button look="quiet" className="self-start" onClick={() => setAll(true)}>
          All {list.length}
        </Button>
      )}
    </section>
  )
}
