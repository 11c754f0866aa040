import { Link } from '@tanstack/react-router'
import { useState } from 'react'
import type { LessonView } from '../../api/client'
import { useClass, useMe } from '../../api/shared'
import { Button, Field, Heading, Input, inputLook, Notice, Select, Check } from '../../ui/parts'
import { useLog, useUnlog } from './api'
import { allSure, bodyOf, cardsOf, draftOf, shownUntil, type Apart, type Draft, type Noted } from './log'
import type { Held } from './useHeld'

const levels = ['not yet', 'shaky', 'sure', 'secure']
const apart: Apart[] = ['reading', 'spelling', 'forming']

type Props = {
  view: LessonView
  seconds: number
  reached: string
  held?: Held
  guest?: boolean // a phone that joined by a code: it sees nothing else of the library
  onBack?: () => void
}

/** After the lesson: how sure the class was of its cards. For the class, never for a child. */
export function LogForm({ view, seconds, reached, held, guest = false, onBack }: Props) {
  const lesson = view.lesson
  const known = useClass(guest ? '' : view.class_id).data?.cards
  const [mine, setDraft] = useState<Draft>() // until something is changed it follows what is known of the class
  const draft = mine ?? draftOf(view, new Map(known?.map((c) => [c.card_id, c.sure])), held && notedIn(held))
  const [more, setMore] = useState(false)
  const me = useMe()
  const { log, kept } = useLog(view, me.data?.member_id ?? '')
  const unlog = useUnlog(view.lesson_id)
  const names = lesson.targets.map((id) => lesson.cards[id]?.pair.grapheme).join(' · ')
  const done = log.isSuccess && !unlog.isSuccess
  return (
    <main className="mx-auto flex min-h-screen max-w-6xl flex-col gap-3 p-4 sm:p-6">
      <Heading>{view.logged ? 'Correct the log' : 'How did it go?'}</Heading>
      <p className="text-lg">
        {view.class_name}, {names}
        {seconds > 0 && `: ${Math.round(seconds / 60)} of ${lesson.minutes} minutes`}.{' '}
        {held
          ? 'What you tapped stands here; what you did not touch was sure. Change what was different.'
          : 'What was known stands as it was; change what was different.'}{' '}
        “Not yet” means met, and not known.
      </p>
      <div className="flex flex-wrap gap-3">
        <Button onClick={() => setDraft(allSure(view, draft))}>All of them sure</Button>
        <Button aria-pressed={more} onClick={() => setMore(!more)}>
          Reading, spelling and forming apart
        </Button>
      </div>
      <ul className="grid gap-x-8 lg:grid-cols-2">
        {cardsOf(view).map((id) => (
          <CardRow key={id} id={id} view={view} draft={draft} apart={more} onChange={setDraft} />
        ))}
      </ul>
      <div className="grid gap-4 sm:grid-cols-[12rem_1fr]">
        <Field label="Taught on" hint="Empty: today.">
          {(ids) => (
            <Input {...ids} type="date" value={draft.on} onChange={(e) => setDraft({ ...draft, on: e.target.value })} />
          )}
        </Field>
        <Field label="A note about the class" hint="Never about a child.">
          {(ids) => (
            <textarea
              {...ids}
              rows={2}
              maxLength={600}
              value={draft.note}
              onChange={(e) => setDraft({ ...draft, note: e.target.value })}
              className={inputLook}
            />
          )}
        </Field>
      </div>
      <details open={draft.skipped.length > 0}>
        <summary className="min-h-11 cursor-pointer content-center font-bold">
          Steps skipped today{draft.skipped.length > 0 && `: ${draft.skipped.length}`}
        </summary>
        <fieldset className="flex flex-wrap gap-x-4">
          <legend className="sr-only">Skipped today</legend>
          {lesson.steps.map((s) => (
            <Check
              key={s.id}
              checked={draft.skipped.includes(s.id)}
              onChange={(e) =>
                setDraft({
                  ...draft,
                  skipped: e.target.checked ? [...draft.skipped, s.id] : draft.skipped.filter((k) => k !== s.id),
                })
              }
            >
              {s.name}
            </Check>
          ))}
        </fieldset>
      </details>
      {done && <Notice kind="good">Logged. The pack of the next lesson is chosen from it.</Notice>}
      {unlog.isSuccess && <Notice kind="good">Taken back: this lesson counts as not taught.</Notice>}
      {kept && (
        <Notice kind="care">
          The server does not take it now. The log is kept in this browser and sent by itself, also after signing in
          again.
        </Notice>
      )}
      {log.error && !kept && <Notice kind="wrong">{log.error.message}</Notice>}
      <div className="flex flex-wrap gap-3">
        {!done && (
          <Button
            look="main"
            disabled={log.isPending}
            onClick={() => {
              unlog.reset()
              log.mutate(bodyOf(draft, reached, held?.state.took))
            }}
          >
            Log it for the class
          </Button>
        )}
        {(done || view.logged) && !unlog.isSuccess && (
          <Button disabled={unlog.isPending} onClick={() => unlog.mutate()}>
            Undo: it was not taught
          </Button>
        )}
        {onBack && <Button onClick={onBack}>Back to the lesson</Button>}
        {guest && done && <span className="content-center font-bold">This phone has done its work.</span>}
        {!guest && (
          <Link to="/lessons" className="inline-flex min-h-11 items-center px-4 font-bold underline underline-offset-4">
            {done ? 'Done' : 'Leave without a log'}
          </Link>
        )}
      </div>
    </main>
  )
}

const notedIn = ({ lesson, list, at, state }: Held): Noted => ({
  shown: shownUntil(lesson, list, at, state.skipped),
  unsure: state.unsure,
  skipped: state.skipped,
})

type RowProps = { id: string; view: LessonView; draft: Draft; apart: boolean; onChange: (d: Draft) => void }

function CardRow({ id, view, draft, apart: more, onChange }: RowProps) {
  const grapheme = view.lesson.cards[id]?.pair.grapheme ?? ''
  const target = view.lesson.targets.includes(id)
  const now = draft.sure[id]
  const set = (part: Partial<NonNullable<typeof now>>) =>
    onChange({ ...draft, sure: { ...draft.sure, [id]: { sure: 2, ...now, ...part } } })
  return (
    <li className="flex flex-wrap items-center gap-2 border-b border-line py-0.5">
      <span className="min-w-14 font-child text-3xl">{grapheme}</span>
      {target && (
        <span className="rounded bg-marigold px-2 font-bold">
          {view.lesson.purpose === 'introduce' ? 'new' : 'this lesson'}
        </span>
      )}
      <span className="ml-auto">
        <Levels label={`How sure of ${grapheme}`} value={now?.sure} onChange={(sure) => set({ sure })} />
      </span>
      {more && (
        <span className="flex w-full flex-wrap justify-end gap-x-4">
          {apart.map((kind) => (
            <label key={kind} className="flex items-center gap-2 text-sm">
              {kind}
              <Select
                aria-label={`${kind} of ${grapheme}`}
                value={now?.[kind] ?? ''}
                onChange={(e) => set({ [kind]: e.target.value === '' ? undefined : Number(e.target.value) })}
              >
                <option value="">as above</option>
                {levels.map((name, level) => (
                  <option key={name} value={level}>
                    {name}
                  </option>
                ))}
              </Select>
            </label>
          ))}
        </span>
      )}
    </li>
  )
}

type LevelProps = { label: string; value: number | undefined; onChange: (v: number) => void }

function Levels({ label, value, onChange }: LevelProps) {
  return (
    <span role="radiogroup" aria-label={label} className="flex gap-1">
      {levels.map((name, level) => (
        <button
          key={name}
          type="button"
          role="radio"
          aria-checked={value === level}
          onClick={() => onChange(level)}
          className={`min-h-11 rounded-lg border-2 px-2 font-bold sm:px-2.5 ${value === level ? 'border-ink bg-slate text-chalk' : 'border-line bg-sheet'}`}
        >
          {value === level ? '● ' : '○ '}
          {name}
        </button>
      ))}
    </span>
  )
}
