import { asIn } from '../../ui/pair'
import { Link, useNavigate, useSearch } from '@tanstack/react-router'
import { useState } from 'react'
import type { Schemas } from '../../api/client'
import { mayI, useClass, useClasses, useLessons, useMe, useVocabulary, useWall } from '../../api/shared'
import { Button, Failed, Heading, Inline, Notice, Waiting } from '../../ui/parts'
import { fetchOlder, useAssemble, useDays } from './api'
import { along, lacks, offers, withPurpose, type Wish } from './model'

const minuteChoices = [4, 5, 8, 10, 12, 15, 20, 25, 30, 35, 40, 50, 60]

/** Where each class stands, a sentence that makes a lesson, and all lessons that were made. */
export function LessonsPage() {
  const { card } = useSearch({ from: '/lessons' })
  const classes = useClasses()
  const wall = useWall()
  const [wish, setWish] = useState<Wish>({ classId: '', purpose: 'introduce', cards: [], minutes: 20 })
  const [came, setCame] = useState(card) // from the page of a card
  if (wall.error && !wall.data) return <Failed error={wall.error} />
  if (!wall.data || !classes.data) return <Waiting what="Looking up the classes …" />
  const all = wall.data
  const asked = came ? { ...wish, cards: along([came], all) } : wish
  const change = (w: Wish) => {
    setCame(undefined)
    setWish(w)
  }
  return (
    <div className="mx-auto flex max-w-6xl flex-col gap-8 p-6">
      <Heading>Make a lesson</Heading>
      {classes.data.length === 0 ? (
        <Notice>There is no class yet. Make one under “Team”; then its next sound is offered here.</Notice>
      ) : (
        <>
          <Maker wish={{ ...asked, classId: asked.classId || (classes.data[0]?.class_id ?? '') }} onChange={change} />
          <Days onWish={(w) => change({ ...w, cards: w.purpose === 'revise' ? w.cards : along(w.cards, all) })} />
        </>
      )}
      <Made />
    </div>
  )
}

/** The sentence: for this class, to this end, these sounds, so many minutes. */
function Maker({ wish, onChange }: { wish: Wish; onChange: (w: Wish) => void }) {
  const me = useMe()
  const wall = useWall()
  const classes = useClasses()
  const klass = useClass(wish.classId)
  const purposes = useVocabulary().data?.purposes ?? []
  const assemble = useAssemble()
  const go = useNavigate()
  const kind = purposes.find((p) => p.purpose === wish.purpose)
  const next = klass.data?.next ?? ''
  const all = wall.data ?? []
  const cards = wish.cards.length === 0 && wish.purpose === 'introduce' && next ? along([next], all) : wish.cards
  const met = new Set(klass.data?.cards.map((c) => c.card_id))
  const fits = all.filter((c) => !cards.includes(c.card_id) && (wish.purpose === 'introduce' || met.has(c.card_id)))
  const most = kind?.most_targets ?? 1
  const missing = lacks({ ...wish, cards }, kind)
  const make = () =>
    assemble.mutate(
      { class_id: wish.classId, purpose: wish.purpose, card_ids: cards, minutes: wish.minutes },
      { onSuccess: (l) => go({ to: '/lessons/$lessonId', params: { lessonId: l.lesson_id } }) },
    )
  return (
    <section className="rounded-xl border-2 border-ink bg-sheet p-6 shadow-md" aria-label="New lesson">
      <div className="flex flex-wrap items-center gap-2 text-xl">
        <label htmlFor="for-class">For</label>
        <Inline id="for-class" value={wish.classId} onChange={(e) => onChange({ ...wish, classId: e.target.value })}>
          {classes.data?.map((c) => (
            <option key={c.class_id} value={c.class_id}>
              {c.name}
            </option>
          ))}
        </Inline>
        <Inline
          aria-label="What the lesson is for"
          value={wish.purpose}
          onChange={(e) => {
            const to = purposes.find((p) => p.purpose === e.target.value)
            if (to) onChange(withPurpose(wish, to))
          }}
        >
          {purposes.map((p) => (
            <option key={p.purpose} value={p.purpose}>
              {p.name}
            </option>
          ))}
        </Inline>
        <ul className="flex flex-wrap gap-2" aria-label="Its sounds">
          {cards.map((id) => {
            const c = all.find((w) => w.card_id === id)
            return (
              <li key={id} className="flex items-center rounded-lg border-2 border-ink bg-paper pl-3">
                <span className="font-child text-3xl leading-none">{c?.pair.grapheme}</span>
                <span className="pl-2 text-base text-soft">{c && asIn(c)}</span>
                <button
                  type="button"
                  aria-label={`Not ${c?.pair.grapheme ?? ''}`}
                  onClick={() => onChange({ ...wish, cards: cards.filter((k) => k !== id) })}
                  className="min-h-11 min-w-11 text-xl hover:bg-marigold/25"
                >
                  ×
                </button>
              </li>
            )
          })}
        </ul>
        {cards.length < most && (
          <Inline
            aria-label="Add a sound"
            value=""
            onChange={(e) => onChange({ ...wish, cards: along([...cards, e.target.value], all).slice(0, most) })}
          >
            <option value="">
              {cards.length === 0 && wish.purpose !== 'introduce' ? 'by need, or choose' : '+ sound'}
            </option>
            {fits.map((c) => (
              <option key={c.card_id} value={c.card_id}>
                {c.step}. {c.pair.grapheme} {asIn(c)}
                {c.card_id === next ? ' – next' : ''}
              </option>
            ))}
          </Inline>
        )}
        <label htmlFor="for-minutes">in</label>
        <Inline
          id="for-minutes"
          value={wish.minutes}
          onChange={(e) => onChange({ ...wish, minutes: Number(e.target.value) })}
        >
          {minuteChoices.map((m) => (
            <option key={m} value={m}>
              {m} minutes
            </option>
          ))}
        </Inline>
        <Button
          look="main"
          className="ml-auto px-8 text-xl"
          disabled={missing !== '' || assemble.isPending || !mayI(me.data?.rights, 'teach')}
          onClick={make}
        >
          {assemble.isPending ? 'Putting it together …' : 'Make the lesson'}
        </Button>
      </div>
      <p className="mt-3 text-base text-soft">
        {kind?.about} {missing}
        {wish.purpose === 'introduce' && cards[0] === next && next && ' This is the next one in your order.'}
        {wish.purpose !== 'introduce' &&
          cards.length === 0 &&
          missing === '' &&
          ' Without a choice: what it is least sure of.'}
        {klass.data && klass.data.cards.length === 0 && (
          <>
            {' '}
            This class has met nothing yet.{' '}
            <Link to="/classes/$classId" params={{ classId: wish.classId }} className="font-bold underline">
              Say what it knows
            </Link>
            .
          </>
        )}
      </p>
      {assemble.error && <Notice kind="wrong">{assemble.error.message}</Notice>}
    </section>
  )
}

/** One row for each class: what comes next, what is shaky, what was taught last; a press fills the sentence. */
function Days({ onWish }: { onWish: (w: Wish) => void }) {
  const days = useDays()
  const purposes = useVocabulary().data?.purposes ?? []
  return (
    <ul className="flex flex-col" aria-label="Where the classes stand">
      {days.data?.map((d) => (
        <li key={d.class_id} className="flex flex-wrap items-center gap-2 border-b border-line py-1">
          <Link
            to="/classes/$classId"
            params={{ classId: d.class_id }}
            className="min-h-11 w-44 content-center font-bold underline underline-offset-4"
          >
            {d.name}
          </Link>
          <span className="w-52 text-sm text-soft">{last(d)}</span>
          {offers(d).map((o) => (
            <Button
              key={o.name}
              onClick={() =>
                onWish({
                  classId: d.class_id,
                  purpose: o.purpose,
                  cards: o.cards,
                  minutes: purposes.find((p) => p.purpose === o.purpose)?.minutes ?? 20,
                })
              }
            >
              {o.name}
            </Button>
          ))}
          {!d.next && <span className="text-sm">the whole order is taught</span>}
        </li>
      ))}
    </ul>
  )
}

const day = (text: string) =>
  new Date(text).toLocaleDateString('en-GB', { weekday: 'short', day: 'numeric', month: 'short' })

const last = (d: Schemas['ClassDay']) =>
  d.last_taught ? `last: ${d.last_name}, ${day(d.last_taught)}` : `${d.taught} cards known, no lesson logged`

/** All lessons that were made, the newest first, of one class or of all. */
function Made() {
  const classes = useClasses()
  const [classId, setClassId] = useState('')
  const list = useLessons(classId)
  const [older, setOlder] = useState<{ of: string; rows: Schemas['StoreLessonRow'][]; end: boolean }>()
  const rows = [...(list.data ?? []), ...(older?.of === classId ? older.rows : [])]
  const more = async () => {
    const from = rows.at(-1)?.created_at
    if (!from) return
    const next = await fetchOlder(classId, from)
    setOlder({ of: classId, rows: [...(older?.of === classId ? older.rows : []), ...next], end: next.length < 30 })
  }
  return (
    <section className="flex flex-col gap-3">
      <div className="flex items-center gap-4">
        <Heading level={2}>Lessons that were made</Heading>
        <Inline aria-label="Of which class" value={classId} onChange={(e) => setClassId(e.target.value)}>
          <option value="">all classes</option>
          {classes.data?.map((c) => (
            <option key={c.class_id} value={c.class_id}>
              {c.name}
            </option>
          ))}
        </Inline>
      </div>
      {list.data?.length === 0 && <Notice>None yet. The first one is a click away.</Notice>}
      <ul className="grid gap-3 sm:grid-cols-2 lg:grid-cols-3">
        {rows.map((r) => (
          <li key={r.lesson_id}>
            <Link
              to="/lessons/$lessonId"
              params={{ lessonId: r.lesson_id }}
              className="flex items-center gap-4 rounded-lg border-2 border-line bg-sheet p-3 hover:border-ink"
            >
              <span className="min-w-14 text-center font-child text-4xl">
                {r.grapheme}
                {r.targets > 1 && <span className="text-xl"> +{r.targets - 1}</span>}
              </span>
              <span>
                <b>{r.class_name}</b>, {r.purpose}, {r.minutes} minutes
                <br />
                <span className="text-sm text-soft">
                  {day(r.created_at)} · {r.taught_at ? `✓ taught ${day(r.taught_at)}` : 'not taught yet'}
                </span>
              </span>
            </Link>
          </li>
        ))}
      </ul>
      {(list.data?.length ?? 0) >= 30 && !(older?.of === classId && older.end) && (
        <Button onClick={() => void more()}>Older ones</Button>
      )}
    </section>
  )
}
