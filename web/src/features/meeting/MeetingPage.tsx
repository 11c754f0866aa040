import { Link } from '@tanstack/react-router'
import { Fragment, useMemo, useState, type ReactNode } from 'react'
import type { WallCard } from '../../api/client'
import { mayI, useClasses, useMe, useWall } from '../../api/shared'
import { Button, Failed, Heading, Notice, Waiting } from '../../ui/parts'
import { asIn } from '../../ui/pair'
import { PlanLinks } from '../../ui/PlanLinks'
import { useMeeting, type Sheet, type Shaky } from './api'
import GroupDialog from './GroupDialog'
import { MemoryPanel } from './MemoryPanel'
import { day, lacking, parts, versions } from './model'

type Named = { cards: ReadonlyMap<string, WallCard>; names: ReadonlyMap<string, string> }

/** What a lead needs before the team meets: what fades, what is shaky where, what drifts apart, what must be ready. */
export function MeetingPage() {
  const sheet = useMeeting()
  const wall = useWall()
  const classes = useClasses()
  const me = useMe()
  const [grouping, setGrouping] = useState(false)
  const cards = useMemo(() => new Map((wall.data ?? []).map((c) => [c.card_id, c])), [wall.data])
  const names = useMemo(() => new Map((classes.data ?? []).map((c) => [c.class_id, c.name])), [classes.data])
  const error = sheet.error ?? wall.error
  if (error && !(sheet.data && wall.data)) return <Failed error={error} />
  if (!sheet.data || !wall.data) return <Waiting what="Gathering what the team should talk about …" />
  const s = sheet.data
  const named = { cards, names }
  return (
    <div className="mx-auto flex max-w-[90rem] flex-col gap-5 p-3 sm:p-5 print:p-0">
      <div className="flex flex-wrap items-center gap-3 print:hidden">
        <h1 className="sr-only">For the meeting</h1>
        <PlanLinks />
        <span className="ml-auto flex gap-2">
          {mayI(me.data?.rights, 'teach') && <Button onClick={() => setGrouping(true)}>Make a group</Button>}
          <Button look="main" onClick={() => print()}>
            Print this sheet
          </Button>
        </span>
      </div>
      <p className="text-lg">
        <b className="font-child text-2xl">For the meeting, {day(s.today)}</b>
        {s.dates.length > 0 && (
          <span className="text-soft">
            {'  '}Coming: {s.dates.map((d) => `${day(d.date)} ${d.what}`).join(' · ')}
          </span>
        )}
      </p>
      <div className="gap-x-8 lg:columns-2 [&>section]:mb-6 [&>section]:break-inside-avoid">
        <Due sheet={s} {...named} />
        <Part
          title="Finish before their week"
          empty="Every card that a class comes to within three weeks is ready."
          list={s.unfinished}
        >
          {(u) => (
            <Row key={u.card_id} card={cards.get(u.card_id)}>
              <b>{day(u.on)}</b>, {names.get(u.class_id)}: {u.state !== 'agreed' && `${u.state}`}
              {u.state !== 'agreed' && u.gaps.length > 0 && ', '}
              {u.gaps.length > 0 && `needs ${lacking(u.gaps)}`}
              {u.by && <span className="text-soft"> (last by {u.by})</span>}
            </Row>
          )}
        </Part>
        <Part
          title="Shaky everywhere"
          about="In most of the classes that met it: look at the card."
          empty="No sound is shaky in most classes."
          list={s.everywhere}
        >
          {(k) => <ShakyRow key={k.card_id} shaky={k} {...named} />}
        </Part>
        <Part
          title="Shaky in one class only"
          about="The others are sure of it: look at the lesson."
          empty="No sound is shaky in one class alone."
          list={s.in_one}
        >
          {(k) => <ShakyRow key={k.card_id} shaky={k} {...named} />}
        </Part>
        <Part
          title="Forgotten twice"
          about="Put forward to be taught again, or for a group."
          empty="No class has forgotten a sound twice."
          list={s.again}
        >
          {(a) => (
            <Row key={a.card_id + a.class_id} card={cards.get(a.card_id)}>
              {names.get(a.class_id)}, {a.lapses} times.{' '}
              <Link
                to="/lessons"
                search={{ card: a.card_id }}
                className="inline-flex min-h-11 items-center font-bold underline underline-offset-4 print:hidden"
              >
                {a.purpose === 'again' ? 'Teach it again' : 'Catch up'}
              </Link>
            </Row>
          )}
        </Part>
        <Part
          title="Changed after classes learned it"
          about="Say the old and the new one to these classes, or put the old one back."
          empty="Nothing that a class was taught has changed since."
          list={s.outdated}
        >
          {(o) => (
            <Row key={o.card_id + o.part + o.was} card={cards.get(o.card_id)}>
              {parts[o.part]} for {o.classes.map((c) => names.get(c)).join(', ')}
              {o.part === 'picture' ? '.' : `: “${o.was}”, now “${o.is || 'none'}”`}
            </Row>
          )}
        </Part>
        <Part
          title="Where classes drift apart"
          about="The same sound was taught differently."
          empty="All classes that met a sound in a lesson were taught it alike."
          list={s.drifts}
        >
          {(d) => (
            <Row key={d.card_id + d.part} card={cards.get(d.card_id)}>
              {parts[d.part]}:{' '}
              {d.variants.map((v, i) => (
                <Fragment key={v.text}>
                  {i > 0 && '; '}
                  {d.part === 'picture' ? `picture ${i + 1}` : `“${v.text || 'none'}”`} in{' '}
                  {v.classes.map((c) => names.get(c)).join(', ')}
                </Fragment>
              ))}
            </Row>
          )}
        </Part>
        <Versions sheet={s} wall={wall.data} {...named} />
      </div>
      {s.proposals > 0 && (
        <Notice kind="care">
          {s.proposals} {s.proposals === 1 ? 'change' : 'changes'} of the order {s.proposals === 1 ? 'waits' : 'wait'}{' '}
          for a decision.{' '}
          <Link to="/order" className="inline-flex min-h-11 items-center font-bold underline">
            Look at the order
          </Link>
        </Notice>
      )}
      <MemoryPanel lead={mayI(me.data?.rights, 'agree')} />
      {grouping && <GroupDialog cards={cards} onClose={() => setGrouping(false)} />}
    </div>
  )
}

type PartProps<T> = { title: string; about?: string; empty: string; list: readonly T[]; children: (t: T) => ReactNode }

const atFirst = 8

function Part<T>({ title, about, empty, list, children }: PartProps<T>) {
  const [all, setAll] = useState(false)
  return (
    <section className="flex flex-col gap-1">
      <Heading level={2}>{title}</Heading>
      {list.length === 0 ? (
        <p className="text-soft">✓ {empty}</p>
      ) : (
        <>
          {about && <p className="text-sm text-soft">{about}</p>}
          <ul>{list.slice(0, all ? undefined : atFirst).map(children)}</ul>
          {!all && list.length > atFirst && (
            <Button look="quiet" className="self-start print:hidden" onClick={() => setAll(true)}>
              All {list.length}
            </Button>
          )}
        </>
      )}
    </section>
  )
}

function Row({ card, children }: { card: WallCard | undefined; children: ReactNode }) {
  return (
    <li className="flex items-baseline gap-3 border-b border-line py-1">
      <Link
        to="/cards/$cardId"
        params={{ cardId: card?.card_id ?? '' }}
        className="min-h-11 w-24 shrink-0 rounded leading-tight hover:bg-marigold/25"
      >
        <b className="font-child text-2xl">{card?.pair.grapheme}</b>
        <span className="block truncate text-xs text-soft">{card && asIn(card)}</span>
      </Link>
      <span>{children}</span>
    </li>
  )
}

const sureness = ['not yet', 'shaky', 'sure', 'secure']

function ShakyRow({ shaky, cards, names }: { shaky: Shaky } & Named) {
  return (
    <Row card={cards.get(shaky.card_id)}>
      {shaky.in.map((i, k) => (
        <span key={i.class_id}>
          {k > 0 && ' · '}
          {names.get(i.class_id)}: <b>{sureness[i.sure]}</b>, {Math.round(i.kept * 100)} in 100 left
        </span>
      ))}
    </Row>
  )
}

function Due({ sheet, cards }: { sheet: Sheet } & Named) {
  return (
    <section className="flex flex-col gap-1">
      <Heading level={2}>What fades</Heading>
      <ul>
        {sheet.due.map((d) => (
          <li key={d.class.class_id} className="flex flex-wrap items-baseline gap-x-3 border-b border-line py-1">
            <Link
              to="/classes/$classId"
              params={{ classId: d.class.class_id }}
              className="min-h-11 w-40 content-center font-bold underline underline-offset-4"
            >
              {d.class.name}
            </Link>
            <span>
              {d.due.length === 0 ? `✓ all ${d.met} hold` : `${d.due.length} of ${d.met} fade:`}
              <b className="pl-2 font-child text-xl">
                {d.due
                  .slice(0, 12)
                  .map((id) => cards.get(id)?.pair.grapheme)
                  .join('  ')}
              </b>
              {d.due.length > 12 && ' …'}
            </span>
          </li>
        ))}
      </ul>
    </section>
  )
}

function Versions({ sheet, wall, names }: { sheet: Sheet; wall: readonly WallCard[] } & Named) {
  const list = versions(sheet, wall)
  const taught = [...new Set(sheet.taught.map((t) => t.class_id))]
  return (
    <section className="flex flex-col gap-1">
      <Heading level={2}>Which version each class was taught</Heading>
      {list.length === 0 ? (
        <p className="text-soft">No lesson that introduces a sound was logged yet.</p>
      ) : (
        <div tabIndex={0} className="max-h-80 overflow-auto print:max-h-none">
          <table className="w-full text-left">
            <thead>
              <tr className="border-b-2 border-ink">
                <th className="pr-3">Card</th>
                {taught.map((c) => (
                  <th key={c} className="px-2">
                    {names.get(c)}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {list.map(({ card, row, apart }) => (
                <tr key={card.card_id} className={`border-b border-line ${apart ? 'bg-marigold/20' : ''}`}>
                  <th className="pr-3 font-child text-xl">{card.pair.grapheme}</th>
                  {taught.map((c) => (
                    <td key={c} className="px-2">
                      {row.has(c) ? `version ${row.get(c) ?? ''}` : '–'}
                      {apart && row.has(c) && ' ≠'}
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
    </section>
  )
}
