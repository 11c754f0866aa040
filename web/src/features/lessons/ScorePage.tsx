import { Link, useNavigate, useParams, useSearch } from '@tanstack/react-router'
import { useState } from 'react'
import type { LessonView, Step } from '../../api/client'
import { callThen, mayI, useLesson, useMe, useVocabulary } from '../../api/shared'
import { Letter } from '../../ui/Letter'
import { Button, Failed, Inline, Notice, Waiting } from '../../ui/parts'
import { Shape } from '../../ui/Shape'
import { clock } from '../../ui/clock'
import { offerUndo } from '../../ui/undo'
import { useWide } from '../../ui/useMedia'
import { useEdit, type Edit } from './api'
import { about, label, measures, summary, undone, type Measure } from './model'
import { PrintMenu } from './PrintMenu'
import { StepPanel } from './StepPanel'

export function ScorePage() {
  const { lessonId } = useParams({ from: '/lessons/$lessonId' })
  const lesson = useLesson(lessonId)
  if (lesson.error && !lesson.data) return <Failed error={lesson.error} />
  if (!lesson.data) return <Waiting what="Opening the lesson …" />
  return <Score view={lesson.data} />
}

function Score({ view }: { view: LessonView }) {
  const me = useMe()
  const edit = useEdit(view.lesson_id)
  const { step: chosen } = useSearch({ from: '/lessons/$lessonId' })
  const go = useNavigate()
  const lesson = view.lesson
  const { bars, end, over } = measures(lesson)
  const open = bars.find((b) => b.step.id === chosen) ?? bars[0]
  const disabled = !mayI(me.data?.rights, 'teach') // not while a change is under way: that would take the focus away
  const wide = useWide()
  const change = (e: Edit, done?: () => void) =>
    callThen(edit, e, () => {
      done?.()
      const text = undone(e, lesson)
      if (text) offerUndo(text, () => edit.mutate({ do: 'undo' }))
    })
  const panel = open && <StepPanel key={open.step.id} step={open.step} view={view} disabled={disabled} edit={change} />
  const choose = (step: string) =>
    void go({ to: '/lessons/$lessonId', params: { lessonId: view.lesson_id }, search: { step }, replace: true })
  return (
    <div className="mx-auto flex max-w-[1400px] flex-col gap-4 p-3 sm:p-5">
      <Head view={view} disabled={disabled} onRenew={(minutes) => change({ do: 'renew', minutes })} />
      {view.card_changed && (
        <Notice>
          A card has changed since this was made. “Renew” takes the new version; until then it stays as it is.
        </Notice>
      )}
      {edit.error && <Notice kind="wrong">{edit.error.message}</Notice>}
      <Remarks lesson={lesson} />
      <Strip bars={bars} end={end} over={over} seconds={lesson.seconds} open={open?.step.id} onOpen={choose} />
      <div className="grid items-start gap-5 lg:grid-cols-[26rem_1fr]">
        <ol className="flex flex-col" aria-label="Steps">
          {bars.map(({ step, from }) => (
            <li key={step.id} className="border-b border-line">
              <button
                type="button"
                aria-current={open?.step.id === step.id}
                onClick={() => choose(step.id)}
                className={`grid min-h-11 w-full grid-cols-[3rem_1.5rem_minmax(0,1fr)] sm:grid-cols-[3rem_1.5rem_7.5rem_minmax(0,1fr)] items-center gap-2 px-1 text-left ${open?.step.id === step.id ? 'bg-marigold/30' : 'hover:bg-marigold/15'}`}
              >
                <span className="tabular-nums text-soft">{clock(from)}</span>
                <Shape family={step.family} className="size-5" />
                <b>{step.name}</b>
                <Shown step={step} lesson={lesson} />
              </button>
              {!wide && open?.step.id === step.id && panel}
            </li>
          ))}
        </ol>
        {wide && panel}
      </div>
    </div>
  )
}

/** What a step shows, at a glance: its pictures, its letters and words, or what the adult does. */
function Shown({ step, lesson }: { step: Step; lesson: LessonView['lesson'] }) {
  const list = step.items.filter((i) => i.basket !== 'has-not' && i.kind !== 'question')
  const short = list.length > 0 && list.every((i) => ['word', 'card', 'picture'].includes(i.kind))
  if (!short) return <span className="truncate text-sm max-sm:hidden">{summary(step, lesson)}</span>
  const once = list.filter((i, k) => list.findIndex((j) => j.value === i.value) === k)
  return (
    <span className="flex items-center gap-x-2 overflow-hidden font-child text-lg whitespace-nowrap max-sm:hidden">
      {once.map((i) =>
        i.kind === 'picture' ? (
          <img key={i.slot} src={`/api/word-pictures/${i.value}`} alt={i.value} className="size-8 shrink-0" />
        ) : (
          <span key={i.slot}>{label(i, lesson)}</span>
        ),
      )}
    </span>
  )
}

type Planned = NonNullable<LessonView['lesson']['planned']>

const plannedDay = (p: Planned) => {
  const day = new Date(`${p.date}T12:00:00`).toLocaleDateString('en-GB', {
    weekday: 'long',
    day: 'numeric',
    month: 'long',
  })
  return p.week > 0 ? `${day} (${p.term}, week ${p.week})` : day
}

const minutes = [4, 5, 8, 10, 12, 15, 20, 25, 30, 35, 40, 50, 60]

function Head({ view, disabled, onRenew }: { view: LessonView; disabled: boolean; onRenew: (m: number) => void }) {
  const lesson = view.lesson
  const faces = lesson.targets.flatMap((id) => lesson.cards[id] ?? [])
  const purpose = useVocabulary().data?.purposes.find((p) => p.purpose === lesson.purpose)
  const one = faces.length === 1 ? faces[0] : undefined
  return (
    <div className="flex flex-wrap items-center gap-3 sm:gap-5">
      {one && (
        <Letter
          drawn={one.writing}
          grapheme={one.pair.grapheme}
          group={one.pair.grapheme.length > 1 && !one.pair.grapheme.includes('-')}
          className="h-24 max-sm:h-20"
        />
      )}
      <div className="min-w-0 flex-1 max-sm:min-w-[60%]">
        <h1 className="font-child text-3xl font-bold">
          {about(lesson)} {one?.keyword && <span className="text-2xl font-normal">as in {one.keyword}</span>}
        </h1>
        <p className="flex flex-wrap items-center gap-1 text-lg">
          {purpose?.name} for <b>{view.class_name}</b>,{' '}
          <Inline
            aria-label="Minutes"
            value={lesson.minutes}
            disabled={disabled}
            onChange={(e) => onRenew(Number(e.target.value))}
          >
            {[...new Set([...minutes, lesson.minutes])]
              .sort((a, b) => a - b)
              .map((m) => (
                <option key={m} value={m}>
                  {m} minutes
                </option>
              ))}
          </Inline>{' '}
          planned {clock(lesson.seconds)}
          {lesson.planned && <span>for {plannedDay(lesson.planned)}</span>}
          {view.logged && <span> · ✓ taught {new Date(view.logged.taught_at).toLocaleDateString('en-GB')}</span>}
        </p>
      </div>
      <Link
        to="/teach/$lessonId"
        params={{ lessonId: view.lesson_id }}
        className="inline-flex min-h-14 items-center rounded-lg bg-slate px-8 text-xl font-bold text-chalk"
      >
        Teach
      </Link>
      <Link
        to="/teach/$lessonId"
        params={{ lessonId: view.lesson_id }}
        search={{ log: true }}
        className="inline-flex min-h-11 items-center rounded-lg border-2 border-ink/70 bg-sheet px-4 font-bold hover:bg-marigold/25"
      >
        {view.logged ? 'Correct the log' : 'Log it'}
      </Link>
      <PrintMenu lessonId={view.lesson_id} classId={view.class_id} revision={view.revision} />
      <Button
        disabled={disabled}
        onClick={() => onRenew(lesson.minutes)}
        title="Takes the cards and the class’s log as they are now; locked items stay"
      >
        Renew
      </Button>
    </div>
  )
}

/** Notes and steps left out, gathered in one line that opens. */
function Remarks({ lesson }: { lesson: LessonView['lesson'] }) {
  const [open, setOpen] = useState(false)
  const n = lesson.notes.length
  const left = lesson.dropped.length
  if (n + left === 0) return null
  const parts = [
    n > 0 ? `${n} ${n === 1 ? 'note' : 'notes'}` : '',
    left > 0
      ? `${left} ${left === 1 ? 'step' : 'steps'} left out: ${lesson.dropped.map((d) => d.name).join(', ')}`
      : '',
  ].filter(Boolean)
  return (
    <div className="rounded-lg border-l-8 border-marigold bg-marigold/15 px-3">
      <button
        type="button"
        aria-expanded={open}
        onClick={() => setOpen(!open)}
        className="flex min-h-11 w-full items-center gap-2 text-left font-bold"
      >
        <span aria-hidden>{open ? '▾' : '▸'}</span> {parts.join(' · ')}
      </button>
      {open && (
        <ul className="list-disc pb-2 pl-6">
          {lesson.notes.map((r) => (
            <li key={r.text}>{r.text}</li>
          ))}
          {lesson.dropped.map((d) => (
            <li key={d.name + d.text}>
              <b>{d.name}</b> is left out: {d.text}.
            </li>
          ))}
        </ul>
      )}
    </div>
  )
}

type StripProps = {
  bars: Measure[]
  end: number
  over: number
  seconds: number
  open: string | undefined
  onOpen: (step: string) => void
}

/** The score: each step as wide as its time. */
function Strip({ bars, end, over, seconds, open, onOpen }: StripProps) {
  return (
    <div
      role="group"
      aria-label={`The score: ${bars.length} steps in ${clock(seconds)}`}
      className="relative mt-2 flex h-36 max-sm:hidden w-full items-stretch border-y-2 border-ink bg-[repeating-linear-gradient(0deg,transparent_0_24px,var(--color-line)_24px_25px)]"
    >
      {bars.map(({ step, from, share }) => (
        <button
          key={step.id}
          type="button"
          onClick={() => onOpen(step.id)}
          aria-pressed={open === step.id}
          title={`${step.name}, from ${clock(from)}, ${clock(step.seconds)}`}
          style={{ width: `${share * 100}%` }}
          className={`flex min-w-6 flex-col items-center justify-between border-r-2 border-ink/70 py-1 ${open === step.id ? 'bg-marigold/50' : 'bg-paper/70 hover:bg-marigold/25'}`}
        >
          <Shape family={step.family} className="size-5 shrink-0" />
          <span className="rotate-180 truncate text-sm font-bold [writing-mode:vertical-rl]">{step.name}</span>
          <span className="text-sm tabular-nums">{clock(step.seconds)}</span>
        </button>
      ))}
      <span
        aria-hidden
        className="absolute inset-y-0 w-2 border-x-2 border-ink"
        style={{ left: `calc(${end * 100}% - 8px)` }}
      />
      {over > 0 && (
        <span className="absolute -top-6 right-0 rounded bg-coral px-2 text-sm font-bold">runs {clock(over)} over</span>
      )}
    </div>
  )
}
