import { Link, useParams, useSearch } from '@tanstack/react-router'
import { useEffect, useRef, useState } from 'react'
import { type LessonView, type StepKind } from '../../api/client'
import { useMe, useVocabulary } from '../../api/shared'
import { Failed, Waiting } from '../../ui/parts'
import { Shape } from '../../ui/Shape'
import { useKeys } from '../../ui/useKeys'
import { useLessonToTeach } from './api'
import { Board, BoardEnd } from './Board'
import { Controls, Pace, PlanLine, Script, touch } from './Controls'
import { Desk, nameOf } from './Desk'
import { LogForm } from './LogForm'
import { toggleFullScreen, useAwake } from './useAwake'
import { heldKeys, keysOf, useHeld, type Held } from './useHeld'

export type FaceName = 'board' | 'desk' | 'both'

export function TeachPage() {
  const { lessonId } = useParams({ from: '/teach/$lessonId' })
  const { log, face = 'both' } = useSearch({ from: '/teach/$lessonId' })
  const view = useLessonToTeach(lessonId)
  const kinds = useVocabulary()
  const error = view.error ?? kinds.error
  if (error && !(view.data && kinds.data)) return <Failed error={error} />
  if (!view.data || !kinds.data) return <Waiting what="Opening the lesson …" />
  if (log) return <LogForm view={view.data} seconds={0} reached="" />
  return <Lesson key={`${lessonId} ${face}`} view={view.data} kinds={kinds.data.steps} face={face} />
}

function Lesson({ view: given, kinds, face }: { view: LessonView; kinds: readonly StepKind[]; face: FaceName }) {
  const [view] = useState(given) // what was loaded is what is taught, whatever changes meanwhile
  const held = useHeld(view, kinds, face === 'desk' ? 'desk' : 'board')
  const me = useMe()
  const guest = me.data?.desk === view.lesson_id
  const [peeks, setPeeks] = useState(false) // the hidden word, for the adult of one window
  const isDesk = face === 'desk'
  const { showStrip } = held
  const show = useRef(showStrip)
  useEffect(() => {
    if (isDesk && held.run.asked) show.current(false) // there is a desk now: the board belongs to the children
  }, [isDesk, held.run.asked])
  useAwake(!held.over)
  useKeys(
    held.over || held.resumes
      ? {}
      : {
          ...keysOf(held),
          ...(face === 'desk' ? {} : { s: held.strip, f: toggleFullScreen }),
          ...(face === 'both' ? { w: () => setPeeks((v) => !v) } : {}),
        },
    { everywhere: true, repeat: true, says: face === 'desk' ? heldKeys : boardKeys },
  )
  if (!held.ready)
    return (
      <div className="slate flex min-h-screen items-center justify-center bg-slate text-2xl text-chalk">
        Getting pictures and sounds ready …
      </div>
    )
  if (!held.screen || !held.step) return <Waiting what="This lesson has no steps. Renew it first." />
  if (held.resumes)
    return face === 'board' ? (
      <Slate title="The lesson stopped here">
        <BoardEnd />
        <button type="button" onClick={held.goOn} className={`${touch} m-3 self-end`}>
          Go on
        </button>
      </Slate>
    ) : (
      <Resume held={held} onBegin={() => face === 'both' && held.showStrip(true)} />
    )
  if (held.over)
    return face === 'board' || (face === 'both' && !held.state.strip) ? (
      <Slate title="The lesson is over">
        <BoardEnd />
        {face === 'both' && (
          <button type="button" onClick={() => held.showStrip(true)} className={`${touch} m-3 self-end`}>
            Log it here
          </button>
        )}
      </Slate>
    ) : (
      <LogForm
        view={view}
        held={held}
        seconds={held.seconds}
        reached={held.step.id}
        guest={guest}
        onBack={held.reopen}
      />
    )
  if (isDesk) return <Desk held={held} guest={guest} />
  return <BoardFace held={held} alone={face === 'both'} peeks={peeks} />
}

function Slate({ title, children }: { title: string; children: React.ReactNode }) {
  return (
    <main className="slate flex h-screen flex-col bg-slate text-chalk" data-face="board">
      <h1 className="sr-only">{title}</h1>
      {children}
    </main>
  )
}

/** The board; in the one window of a teacher who has no second one, with a strip for the adult below. */
function BoardFace({ held, alone, peeks }: { held: Held; alone: boolean; peeks: boolean }) {
  const { screen, step, lesson, state, pack } = held
  if (!screen || !step || !pack) return null
  const strip = alone && state.strip
  return (
    <main
      className="slate flex h-screen flex-col overflow-hidden bg-slate text-chalk"
      data-face="board"
      data-screen={held.at}
      data-step={step.kind}
      data-turned={held.place.turned}
      data-strip={strip}
      onClick={leaveFocus}
    >
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1 px-4 pt-3 text-lg sm:px-6">
        <Shape family={step.family} className="size-8" />
        <h1 className={strip ? 'text-2xl font-bold outline-none' : 'sr-only'}>{step.name}</h1>
        <Signs held={held} />
        {strip && (
          <span className="ml-auto flex flex-wrap items-center gap-x-4 gap-y-1">
            <Pace held={held} />
            <span className={held.missing ? '' : 'max-lg:hidden'} title="All pictures and sounds are on this machine">
              {held.missing ? `${held.missing} things could not be loaded` : '✓ works without network'}
            </span>
            <button
              type="button"
              className={touch}
              aria-label="full screen"
              title="full screen (f)"
              onClick={toggleFullScreen}
            >
              <svg viewBox="0 0 20 20" className="size-5" aria-hidden>
                <path
                  d="M3 8V3h5M12 3h5v5M17 12v5h-5M8 17H3v-5"
                  fill="none"
                  stroke="currentColor"
                  strokeWidth="2.4"
                  strokeLinecap="round"
                  strokeLinejoin="round"
                />
              </svg>
            </button>
            <a
              className={touch}
              href={`/teach/${held.view.lesson_id}?face=desk`}
              target={`desk-${held.view.lesson_id}`}
              onClick={() => held.showStrip(false)}
            >
              Desk apart
            </a>
            <Link
              to="/lessons/$lessonId"
              params={{ lessonId: held.view.lesson_id }}
              className={touch}
              onClick={held.leave}
            >
              Leave
            </Link>
            <button type="button" className={touch} onClick={held.end}>
              End and log
            </button>
          </span>
        )}
        {!strip && alone && (
          <button
            type="button"
            onClick={held.strip}
            aria-label="show the strip for the adult"
            className="ml-auto min-h-11 min-w-11 rounded-lg text-chalk/60"
          >
            ⋯
          </button>
        )}
      </div>
      <p role="status" className="sr-only">
        {step.name}, step {screen.step + 1} of {lesson.steps.length}
      </p>
      <Board held={held} pack={pack} sounds />
      {strip && (
        <div className="px-4 pb-2 sm:px-6">
          {held.withdrawn.length > 0 && <p className="text-lg">A recording was withdrawn: say that sound yourself.</p>}
          {peeks && screen.show.kind === 'word' && (
            <p className="text-xl">
              the word: <b className="font-child">{nameOf(screen)}</b>
            </p>
          )}
          <Script held={held} />
          <div className="pt-2">
            <Controls held={held} />
          </div>
        </div>
      )}
      {strip ? <PlanLine held={held} /> : <NextCorner held={held} />}
    </main>
  )
}

/** Where the lesson stands, without a word: a sign for each step, the present one large. */
function Signs({ held }: { held: Held }) {
  return (
    <ol
      aria-label={`step ${(held.screen?.step ?? 0) + 1} of ${held.lesson.steps.length}`}
      className="flex items-center gap-1 max-md:hidden"
    >
      {held.lesson.steps.map((s, i) => (
        <li key={s.id} className={i === held.screen?.step ? 'rounded border-2 border-marigold p-0.5' : 'opacity-50'}>
          <Shape family={s.family} className="size-4" />
        </li>
      ))}
    </ol>
  )
}

/** Without the strip there is still a corner to press, for who stands at the board. */
function NextCorner({ held }: { held: Held }) {
  return (
    <button
      type="button"
      aria-label="on"
      onClick={held.on}
      className="absolute right-3 bottom-3 z-10 min-h-16 min-w-16 rounded-full border-2 border-chalk/50 text-3xl text-chalk/80 hover:bg-chalk/10"
    >
      →
    </button>
  )
}

/** A lesson that was stopped, by the bell or by the day: go on there, or from the beginning. */
function Resume({ held, onBegin }: { held: Held; onBegin: () => void }) {
  const { state, step, view } = held
  const when = new Date(state.clock.at).toLocaleString('en-GB', {
    weekday: 'long',
    day: 'numeric',
    month: 'long',
    hour: '2-digit',
    minute: '2-digit',
  })
  const ended = state.ended
  return (
    <main className="slate flex min-h-screen flex-col items-center justify-center gap-6 bg-slate p-6 text-center text-chalk">
      <h1 className="text-3xl font-bold">
        {ended ? 'This lesson was ended' : `This lesson stopped at ${step?.name ?? ''}`}
      </h1>
      <p className="text-xl">
        {view.class_name}, {when}.{view.logged ? ' It is logged.' : ''}
      </p>
      <div className="flex flex-wrap justify-center gap-4">
        <button
          type="button"
          autoFocus
          onClick={() => {
            held.goOn()
            onBegin()
          }}
          className={`${touch} border-marigold bg-marigold text-2xl text-ink`}
        >
          Go on there
        </button>
        <button
          type="button"
          onClick={() => {
            held.beginAnew()
            onBegin()
          }}
          className={touch}
        >
          From the beginning
        </button>
        {ended && !view.logged && (
          <Link to="/teach/$lessonId" params={{ lessonId: view.lesson_id }} search={{ log: true }} className={touch}>
            Log it
          </Link>
        )}
        <Link to="/lessons/$lessonId" params={{ lessonId: view.lesson_id }} className={touch}>
          Leave
        </Link>
      </div>
    </main>
  )
}

/** A press by hand leaves the focus nowhere, so that the space bar goes on afterwards; one by keyboard keeps it. */
const leaveFocus = (e: React.MouseEvent) => {
  if (e.detail > 0 && document.activeElement instanceof HTMLElement) document.activeElement.blur()
}

const boardKeys = {
  ...heldKeys,
  s: 'hide or show the strip for the adult',
  w: 'the hidden word, for the adult',
  f: 'full screen',
}
