import { Link, useNavigate } from '@tanstack/react-router'
import type { WallCard } from '../../api/client'
import { mayI, useMe } from '../../api/shared'
import { isGroup, Letter } from '../../ui/Letter'
import { Button, Notice } from '../../ui/parts'
import { asIn } from '../../ui/pair'
import { useMakeNext, type ClassToday } from './api'
import { dayFrom, purposeName } from './model'

type Props = { klass: ClassToday; today: string; cards: ReadonlyMap<string, WallCard> }

const usual = 20 // minutes

/** A class in the morning: what comes next, what fades, and what was left. */
export function ClassBoard({ klass, today, cards }: Props) {
  return (
    <section
      aria-label={klass.class.name}
      className="flex min-w-0 flex-col gap-3 rounded-xl border-2 border-ink bg-sheet p-4 wrap-anywhere shadow-md"
    >
      <div className="flex flex-wrap items-baseline gap-x-4">
        <h2 className="font-child text-3xl font-bold">
          <Link
            to="/classes/$classId"
            params={{ classId: klass.class.class_id }}
            className="inline-flex min-h-11 items-center underline-offset-4 hover:underline"
          >
            {klass.class.name}
          </Link>
        </h2>
        <span className="text-soft">{klass.taught ? '✓ taught today' : `${klass.class.taught} cards met`}</span>
      </div>
      <Next klass={klass} today={today} cards={cards} />
      <dl className="grid grid-cols-[auto_minmax(0,1fr)] items-baseline gap-x-4 gap-y-1">
        <Line name="Fading" list={klass.due} cards={cards} none="nothing; all is fresh" />
        <Line name="Shaky" list={klass.shaky} cards={cards} none="nothing" />
        {klass.unheld && (
          <>
            <dt className="font-bold">Left out</dt>
            <dd>
              <Link
                to="/lessons/$lessonId"
                params={{ lessonId: klass.unheld.lesson_id }}
                className="inline-flex min-h-11 items-center underline underline-offset-4"
              >
                {klass.unheld.steps.join(', ')}, {dayFrom(klass.unheld.taught_at.slice(0, 10), today)}
              </Link>
            </dd>
          </>
        )}
        {klass.left.length > 0 && (
          <>
            <dt className="font-bold">Not taught yet</dt>
            <dd className="flex flex-wrap gap-x-4">
              {klass.left.map((l) => (
                <Link
                  key={l.lesson_id}
                  to="/lessons/$lessonId"
                  params={{ lessonId: l.lesson_id }}
                  className="inline-flex min-h-11 items-center underline underline-offset-4"
                >
                  {purposeName(l.purpose)} {l.grapheme}
                  {l.targets > 1 && ` and ${l.targets - 1} more`}
                  {l.begun && ' (begun)'}
                </Link>
              ))}
            </dd>
          </>
        )}
      </dl>
    </section>
  )
}

/** What the plan says comes next, with the lesson for it. */
function Next({ klass, today, cards }: Props) {
  const make = useMakeNext()
  const go = useNavigate()
  const me = useMe()
  const next = klass.next
  if (!next)
    return (
      <p>
        The plan has come to its end.{' '}
        <Link to="/plan" className="inline-flex min-h-11 items-center font-bold underline underline-offset-4">
          Look at the year
        </Link>
      </p>
    )
  const list = next.cards.flatMap((id) => cards.get(id) ?? [])
  return (
    <div className="flex flex-wrap items-center gap-4 rounded-lg bg-marigold/20 p-3">
      {list.slice(0, 3).map((c) => (
        <Letter
          key={c.card_id}
          grapheme={c.pair.grapheme}
          drawn={c.drawn}
          group={isGroup(c.pair.grapheme)}
          className="h-20 w-24 rounded-md bg-sheet"
        />
      ))}
      <div className="min-w-40 flex-1">
        <p className="text-lg">
          <b className="inline-block first-letter:uppercase">{dayFrom(next.date, today)}</b>:{' '}
          {purposeName(next.purpose)}
        </p>
        <p className="text-soft">{list.length > 0 ? list.map((c) => asIn(c)).join(' · ') : 'what fades most'}</p>
      </div>
      {next.lesson_id ? (
        <Link
          to="/teach/$lessonId"
          params={{ lessonId: next.lesson_id }}
          className="inline-flex min-h-11 items-center rounded-lg bg-slate px-5 text-lg font-bold text-chalk"
        >
          Teach it
        </Link>
      ) : (
        mayI(me.data?.rights, 'teach') && (
          <Button
            look="main"
            className="px-5 text-lg"
            disabled={make.isPending}
            onClick={() =>
              make.mutate(
                {
                  class_id: klass.class.class_id,
                  purpose: next.purpose,
                  card_ids: next.cards.length > 0 ? next.cards : klass.due.slice(0, 4),
                  minutes: usual,
                },
                { onSuccess: (l) => void go({ to: '/lessons/$lessonId', params: { lessonId: l.lesson_id } }) },
              )
            }
          >
            Make the lesson
          </Button>
        )
      )}
      {make.error && (
        <div className="basis-full">
          <Notice kind="wrong">{make.error.message}</Notice>
        </div>
      )}
    </div>
  )
}

const shown = 9

function Line({ name, list, cards, none }: { name: string; list: string[]; none: string; cards: Props['cards'] }) {
  return (
    <>
      <dt className="font-bold">{name}</dt>
      <dd className="flex flex-wrap items-center gap-x-2">
        {list.length === 0 && <span className="text-soft">{none}</span>}
        {list.slice(0, shown).map((id) => {
          const c = cards.get(id)
          return (
            c && (
              <Link
                key={id}
                to="/cards/$cardId"
                params={{ cardId: id }}
                title={asIn(c)}
                className="inline-flex min-h-11 min-w-10 items-center justify-center rounded font-child text-2xl hover:bg-marigold/25"
              >
                {c.pair.grapheme}
              </Link>
            )
          )
        })}
        {list.length > shown && <span>and {list.length - shown} more</span>}
      </dd>
    </>
  )
}
