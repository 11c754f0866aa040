import { asIn } from '../../ui/pair'
import { Link, useParams } from '@tanstack/react-router'
import { useState } from 'react'
import { useTakenAway } from '../../api/outbox'
import { mayI, useClass, useMe, useWall } from '../../api/shared'
import { Button, Failed, Heading, Inline, Input, LinkButton, Notice, Select, Waiting } from '../../ui/parts'
import { useCorrect, useDeclare, useHistory, type ClassView } from './api'
import { Group } from './Group'
import { levels, ticks, wordsOf, type Tick } from './model'
import { People } from './People'
import { Times } from './Times'

/** What a class knows, who said so, and what it was taught. */
export function ClassPage() {
  const { classId } = useParams({ from: '/classes/$classId' })
  const klass = useClass(classId)
  const wall = useWall()
  const me = useMe()
  const error = klass.error ?? wall.error
  if (error && !(klass.data && wall.data)) return <Failed error={error} />
  if (!klass.data || !wall.data) return <Waiting what="Looking up the class …" />
  const may = mayI(me.data?.rights, 'teach')
  return (
    <div className="mx-auto flex max-w-6xl flex-col gap-8 p-6">
      <div className="flex flex-wrap items-baseline gap-4">
        <Heading>{klass.data.name}</Heading>
        <p className="text-lg">
          {klass.data.cards.length} of {wall.data.length} cards met.
        </p>
        <Link to="/lessons" className="flex min-h-11 items-center font-bold underline underline-offset-4">
          Make a lesson
        </Link>
        <Link to="/plan" className="flex min-h-11 items-center font-bold underline underline-offset-4">
          Its year
        </Link>
        {klass.data.cards.length > 0 && (
          <LinkButton href={`/api/classes/${classId}/mat.pdf`} target="_blank">
            Print a mat of all it knows
          </LinkButton>
        )}
      </div>
      {klass.data.from.length > 0 && <Group klass={klass.data} wall={wall.data} may={may} />}
      <Known list={ticks(wall.data, klass.data)} classId={classId} may={may} />
      <ExceptionWords klass={klass.data} may={may} />
      <People klass={klass.data} may={may} />
      <Times classId={classId} />
      <Log classId={classId} may={may} />
    </div>
  )
}

const looks = {
  logged: ['border-ink bg-sheet', '✓ logged'],
  said: ['border-dashed border-ink bg-sheet', '✓ said'],
  'not yet': ['border-coral bg-coral/15', 'met, not yet'],
  unknown: ['border-line bg-paper', ''],
} as const

/** The wall of ticks: a press says that the class knows a card that nobody logged, or takes that back. */
function Known({ list, classId, may }: { list: Tick[]; classId: string; may: boolean }) {
  const declare = useDeclare(classId)
  const [upTo, setUpTo] = useState('')
  return (
    <section className="flex flex-col gap-3">
      <Heading level={2}>What it knows</Heading>
      <p className="flex flex-wrap items-center gap-2">
        This class knows everything up to
        <Inline aria-label="Up to which step" value={upTo} onChange={(e) => setUpTo(e.target.value)}>
          <option value="">choose a step</option>
          {list.map(({ card }) => (
            <option key={card.card_id} value={card.step}>
              {card.step}. {card.pair.grapheme} {asIn(card)}
            </option>
          ))}
        </Inline>
        <Button
          look="main"
          disabled={!may || !upTo || declare.isPending}
          onClick={() => declare.mutate({ known: true, up_to: Number(upTo) })}
        >
          Say so
        </Button>
        <span className="text-sm text-soft">or tick single cards; what lessons logged stays as it is</span>
      </p>
      {declare.error && <Notice kind="wrong">{declare.error.message}</Notice>}
      <ul className="flex flex-wrap gap-2">
        {list.map(({ card, state, sure, left }) => (
          <li key={card.card_id}>
            <button
              type="button"
              aria-pressed={state !== 'unknown'}
              disabled={!may || declare.isPending || state === 'logged' || state === 'not yet'}
              onClick={() => declare.mutate({ known: state === 'unknown', card_ids: [card.card_id] })}
              className={`flex min-h-16 w-20 flex-col items-center rounded-lg border-2 p-1 ${looks[state][0]}`}
            >
              <span className="font-child text-2xl leading-tight">{card.pair.grapheme}</span>
              <span className="max-w-full truncate text-sm">{card.as_in || `/${card.pair.sound}/`}</span>
              <span className="text-xs">
                {state === 'logged' && sure !== undefined ? `✓ ${levels[sure]}` : looks[state][1]}
              </span>
              {left && (
                <span
                  className="flex items-center gap-1 text-xs"
                  title={`${Math.round(left.kept * 100)} in 100 are left`}
                >
                  <Moon kept={left.kept} />
                  {left.fading}
                </span>
              )}
            </button>
          </li>
        ))}
      </ul>
    </section>
  )
}

/** How much is left, as a moon: full where nothing was lost, empty where half or less is left. */
function Moon({ kept }: { kept: number }) {
  const part = Math.max(0, Math.min(1, (kept - 0.5) / 0.5))
  return (
    <svg viewBox="0 0 12 12" className="size-3" aria-hidden>
      <circle cx="6" cy="6" r="5" fill="none" stroke="currentColor" strokeWidth="1.4" />
      <clipPath id={`moon-${Math.round(part * 100)}`}>
        <rect x="1" y={1 + 10 * (1 - part)} width="10" height={10 * part} />
      </clipPath>
      <circle cx="6" cy="6" r="5" fill="currentColor" clipPath={`url(#moon-${Math.round(part * 100)})`} />
    </svg>
  )
}

function ExceptionWords({ klass, may }: { klass: ClassView; may: boolean }) {
  const declare = useDeclare(klass.class_id)
  const [text, setText] = useState('')
  return (
    <section className="flex flex-col gap-3">
      <Heading level={2}>Exception words</Heading>
      <ul className="flex flex-wrap gap-2">
        {klass.words.map((w) => (
          <li key={w.word}>
            <button
              type="button"
              aria-pressed={w.known}
              disabled={!may || declare.isPending || (w.known && !w.said_by)}
              onClick={() => declare.mutate({ known: !w.known, words: [w.word] })}
              title={w.said_by ? `said by ${w.said_by}` : w.known ? 'came with a card' : `comes with step ${w.step}`}
              className={`min-h-11 rounded-lg border-2 px-3 font-child text-xl ${w.known ? 'border-ink bg-sheet' : 'border-line bg-paper text-soft'}`}
            >
              {w.known ? '✓ ' : '– '}
              {w.word === 'i' ? 'I' : w.word}
            </button>
          </li>
        ))}
      </ul>
      {may && (
        <form
          className="flex max-w-xl items-center gap-2"
          onSubmit={(e) => {
            e.preventDefault()
            declare.mutate({ known: true, words: wordsOf(text) }, { onSuccess: () => setText('') })
          }}
        >
          <Input
            aria-label="Further exception words that it knows"
            placeholder="the, I, to"
            maxLength={400}
            value={text}
            onChange={(e) => setText(e.target.value)}
          />
          <Button type="submit" disabled={wordsOf(text).length === 0}>
            It knows these
          </Button>
        </form>
      )}
      {declare.error && <Notice kind="wrong">{declare.error.message}</Notice>}
    </section>
  )
}

const shownAtFirst = 40

function Log({ classId, may }: { classId: string; may: boolean }) {
  const history = useHistory(classId)
  const correct = useCorrect(classId)
  const [all, setAll] = useState(false)
  const taken = useTakenAway(useMe().data?.member_id ?? '')
  const list = history.data?.meetings ?? []
  const notes = history.data?.lessons.filter((l) => l.note) ?? []
  return (
    <section className="flex flex-col gap-3">
      <div className="flex items-center gap-4">
        <Heading level={2}>The log</Heading>
        <LinkButton href={`/api/classes/${classId}/log.csv`}>As a table (CSV)</LinkButton>
      </div>
      {history.data && list.length === 0 && <Notice>Nothing was logged yet.</Notice>}
      {notes.length > 0 && (
        <ul className="list-disc pl-5">
          {notes.map((l) => (
            <li key={l.lesson_id}>
              {date(l.taught_at)}: {l.note} ({l.logged_by})
            </li>
          ))}
        </ul>
      )}
      {correct.error && <Notice kind="wrong">{correct.error.message}</Notice>}
      <ul className="grid gap-x-6 sm:grid-cols-2">
        {list.slice(0, all ? undefined : shownAtFirst).map((m) => (
          <li key={m.log_id} className="flex flex-wrap items-center gap-x-3 border-b border-line">
            {taken.away.has(m.log_id.toString()) && (
              <>
                <span role="status" className="flex-1">
                  <b className="font-child text-xl">{m.pair.grapheme}</b>, {date(m.met_at)}, is taken out.
                </span>
                <Button onClick={() => taken.putBack(m.log_id.toString())}>Put it back</Button>
              </>
            )}
            {!taken.away.has(m.log_id.toString()) && (
              <>
                <span className="w-24 text-sm">{date(m.met_at)}</span>
                <span className="w-14 font-child text-2xl">{m.pair.grapheme}</span>
                {m.introduced && <span className="text-sm">new</span>}
                {m.group && <span className="text-sm">in {m.group}</span>}
                <Select
                  aria-label={`How sure of ${m.pair.grapheme} on ${date(m.met_at)}`}
                  disabled={!may || correct.isPending || m.group !== ''}
                  value={m.sure}
                  onChange={(e) => correct.mutate({ log: m.log_id, sure: Number(e.target.value) })}
                  className="ml-auto"
                >
                  {levels.map((name, level) => (
                    <option key={name} value={level}>
                      {name}
                    </option>
                  ))}
                </Select>
                <Button
                  aria-label={`Take out ${m.pair.grapheme}, ${date(m.met_at)}`}
                  disabled={!may || correct.isPending || m.group !== ''}
                  onClick={() =>
                    taken.takeAway(m.log_id.toString(), {
                      label: `${m.pair.grapheme} taken out of a log`,
                      page: `/classes/${classId}`,
                      path: `/classes/${classId}/log/${m.log_id}`,
                      method: 'POST',
                      body: {},
                    })
                  }
                >
                  ×
                </Button>
              </>
            )}
          </li>
        ))}
      </ul>
      {!all && list.length > shownAtFirst && <Button onClick={() => setAll(true)}>All {list.length}</Button>}
    </section>
  )
}

const date = (text: string) =>
  new Date(text).toLocaleDateString('en-GB', { day: 'numeric', month: 'short', year: 'numeric' })
