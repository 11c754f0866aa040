import { recall, remember } from '../../ui/remembered'
import { Link, useParams, useSearch } from '@tanstack/react-router'
import { useEffect, useRef, useState } from 'react'
import type { LessonView } from '../../api/client'
import { useVocabulary } from '../../api/shared'
import { Failed, Key, Waiting } from '../../ui/parts'
import { Shape } from '../../ui/Shape'
import { useKeys } from '../../ui/useKeys'
import { useLessonToTeach } from './api'
import { LogForm } from './LogForm'
import { clock } from '../../ui/clock'
import { jump, layouts, plannedUntil, screens, speakers } from './model'
import { Stage } from './Stage'
import { usePreload } from './usePreload'

export function TeachPage() {
  const { lessonId } = useParams({ from: '/teach/$lessonId' })
  const { log } = useSearch({ from: '/teach/$lessonId' })
  const view = useLessonToTeach(lessonId)
  const kinds = useVocabulary()
  const error = view.error ?? kinds.error
  if (error && !(view.data && kinds.data)) return <Failed error={error} />
  if (!view.data || !kinds.data) return <Waiting what="Opening the lesson …" />
  if (log) return <LogForm view={view.data} seconds={0} reached="" />
  return <Lesson view={view.data} how={layouts(kinds.data.steps)} />
}

function Lesson({ view: given, how }: { view: LessonView; how: ReturnType<typeof layouts> }) {
  const [view] = useState(given) // what was loaded is what is taught, whatever changes meanwhile
  const lesson = view.lesson
  const [list] = useState(() => screens(lesson, how))
  const { pack, missing } = usePreload(lesson)
  const [at, setAt] = useState(0)
  const [turned, setTurned] = useState(false)
  const [seconds, setSeconds] = useState(0)
  const [script, setScript] = useState(true)
  const [stopped, setStopped] = useState(false) // before the end: the bell, or the class has had enough
  const [played, setPlayed] = useState(0) // on this screen
  const player = useRef<HTMLAudioElement>(null)
  const over = stopped || at >= list.length
  const screen = list[Math.min(at, list.length - 1)]
  const step = screen ? lesson.steps[screen.step] : undefined

  useEffect(() => {
    if (over || !pack) return
    const began = Date.now() - seconds * 1000
    const t = setInterval(() => setSeconds((Date.now() - began) / 1000), 500)
    return () => clearInterval(t)
    // The clock runs from when the lesson is ready to when it is over; it is not restarted by its own ticks.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [over, pack])

  const move = (to: number) => {
    setAt(Math.max(0, Math.min(list.length, to)))
    setTurned(false)
    setPlayed(0)
  }
  const soundOf = screen && 'face' in screen.show ? screen.show.face.id : (lesson.targets[0] ?? '')
  const play = () => {
    const src = pack?.sounds.get(soundOf) ?? pack?.sounds.get(lesson.targets[0] ?? '')
    if (!player.current || !src) return
    player.current.src = src
    void player.current.play()
    setPlayed((n) => n + 1)
  }
  useKeys(
    over
      ? {}
      : {
          ' ': () => move(at + 1),
          ArrowRight: () => move(at + 1),
          PageDown: () => move(at + 1),
          Backspace: () => move(at - 1),
          ArrowLeft: () => move(at - 1),
          PageUp: () => move(at - 1),
          ArrowDown: () => move(jump(list, at, 1)),
          ArrowUp: () => move(jump(list, at, -1)),
          Enter: () => setTurned((t) => !t),
          p: play,
          s: () => setScript((v) => !v),
        },
    { everywhere: true, repeat: true, says: stageKeys },
  )

  const [hand, setHand] = useHand()
  const swipe = useSwipe((way) => move(at + way))

  if (!pack)
    return (
      <div className="slate flex min-h-screen items-center justify-center bg-slate text-2xl text-chalk">
        Getting pictures and sounds ready …
      </div>
    )
  if (over)
    return (
      <LogForm
        view={view}
        seconds={seconds}
        reached={step?.id ?? ''}
        onBack={() => {
          setStopped(false)
          move(Math.min(at, list.length - 1))
        }}
      />
    )
  if (!screen || !step) return <Waiting what="This lesson has no steps. Renew it first." />
  const planned = plannedUntil(lesson, list, at)
  const behind = seconds - planned
  const touch = 'min-h-12 rounded-lg border-2 border-chalk/60 px-4 text-lg font-bold hover:bg-chalk/10'
  return (
    <main
      className="slate flex h-screen flex-col overflow-hidden bg-slate text-chalk"
      data-screen={at}
      data-step={step.kind}
      data-turned={turned}
      onClick={leaveFocus}
    >
      <audio ref={player} />
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1 px-4 pt-3 text-lg sm:px-6">
        <Shape family={step.family} className="size-8" />
        <h1 className="text-2xl font-bold">{step.name}</h1>
        <span className="text-chalk/80">
          step {screen.step + 1} of {lesson.steps.length}
        </span>
        <span className="ml-auto tabular-nums" role="timer">
          {clock(seconds)} of {clock(lesson.seconds)}
          {behind > 30 && <b className="ml-3 rounded bg-coral px-2 text-ink">{clock(behind)} behind the plan</b>}
        </span>
        <span className={missing ? '' : 'max-lg:hidden'} title="All pictures and sounds are on this machine">
          {missing ? `${missing} things could not be loaded` : '✓ works without network'}
        </span>
        <Link to="/lessons/$lessonId" params={{ lessonId: view.lesson_id }} className={touch + ' flex items-center'}>
          Leave
        </Link>
        <button type="button" className={touch} onClick={() => setStopped(true)}>
          End and log
        </button>
      </div>
      <p role="status" className="sr-only">
        {step.name}, step {screen.step + 1} of {lesson.steps.length}
      </p>
      {/* A press anywhere on it turns; for the keyboard and a screen reader there is the button below. */}
      <div
        onClick={() => setTurned(!turned)}
        className="flex min-h-0 flex-1 cursor-pointer touch-pan-y items-center justify-center"
        {...swipe}
      >
        <Stage key={at} screen={screen} turned={turned} pack={pack} lesson={lesson} played={played} />
      </div>
      <div className="flex items-end gap-x-6 gap-y-2 px-4 pb-3 max-sm:flex-col max-sm:items-stretch sm:px-6">
        <p
          className={`min-h-16 flex-1 self-end text-xl leading-snug max-sm:max-h-[22vh] max-sm:self-stretch max-sm:overflow-y-auto max-sm:text-lg ${script ? '' : 'invisible'}`}
        >
          {screen.adult}
        </p>
        <div className="rounded-lg sm:max-w-[34%] border-l-4 border-marigold pl-3 text-xl">
          {screen.voice && <Speaker voice={screen.voice} sign={lesson.signs?.[screen.voice] ?? ''} />}
          <p>{screen.class}</p>
        </div>
      </div>
      <div
        className={`flex flex-wrap items-center gap-3 px-4 pb-2 sm:px-6 ${hand === 'right' ? 'flex-row-reverse' : ''}`}
      >
        <button
          type="button"
          className={`${touch} border-marigold bg-marigold text-ink hover:bg-marigold/80 max-sm:flex-1`}
          onClick={() => move(at + 1)}
        >
          on{' '}
          <span className="max-sm:hidden">
            <Key>space</Key>
          </span>
        </button>
        <button type="button" className={touch} onClick={() => move(at - 1)} disabled={at === 0}>
          ← back
        </button>
        <button type="button" className={touch} onClick={() => setTurned(!turned)}>
          turn{' '}
          <span className="max-sm:hidden">
            <Key>enter</Key>
          </span>
        </button>
        <button
          type="button"
          className={touch}
          onClick={play}
          disabled={!pack.sounds.has(soundOf) && !pack.sounds.has(lesson.targets[0] ?? '')}
        >
          <span className="max-sm:hidden">play the sound</span>
          <span className="sm:hidden">sound</span>{' '}
          <span className="max-sm:hidden">
            <Key>p</Key>
          </span>
        </button>
        <span className="flex-1 max-sm:hidden" />
        <button
          type="button"
          className="min-h-11 px-2 text-base text-chalk/90 underline underline-offset-4 max-sm:hidden"
          onClick={() => setHand(hand === 'right' ? 'left' : 'right')}
        >
          “on” to the {hand === 'right' ? 'left' : 'right'}
        </button>
        <span className="text-base text-chalk/80 max-lg:hidden">
          <Key>?</Key> keys
        </span>
      </div>
      <div aria-hidden className="relative h-3 w-full bg-slate-deep">
        <div
          className="absolute inset-y-0 left-0 bg-chalk/70"
          style={{ width: `${Math.min(100, (planned / lesson.seconds) * 100)}%` }}
        />
        <div
          className="absolute inset-y-0 w-1.5 bg-marigold"
          style={{ left: `${Math.min(99.6, (seconds / lesson.seconds) * 100)}%` }}
        />
      </div>
    </main>
  )
}

function Speaker({ voice, sign }: { voice: keyof typeof speakers; sign: string }) {
  const [shape, who] = speakers[voice]
  return (
    <p className="text-2xl font-bold">
      <span aria-hidden className="text-marigold">
        {shape}
      </span>{' '}
      {who} <span className="text-lg font-normal">({sign})</span>
    </p>
  )
}
/** At which side of the board "on" stands: where the hand is that presses it. */
function useHand() {
  const [hand, setHand] = useState<'left' | 'right'>(() => (recall('stage-hand') === 'left' ? 'left' : 'right'))
  const set = (to: 'left' | 'right') => {
    setHand(to)
    remember('stage-hand', to)
  }
  return [hand, set] as const
}

/** A finger that goes to the left takes the lesson on, one to the right takes it back. */
function useSwipe(go: (way: 1 | -1) => void) {
  const from = useRef<{ x: number; y: number }>(undefined)
  return {
    onTouchStart: (e: React.TouchEvent) => {
      const t = e.touches[0]
      from.current = t && e.touches.length === 1 ? { x: t.clientX, y: t.clientY } : undefined
    },
    onTouchEnd: (e: React.TouchEvent) => {
      const t = e.changedTouches[0]
      const began = from.current
      from.current = undefined
      if (!t || !began) return
      const dx = t.clientX - began.x
      if (Math.abs(dx) < 60 || Math.abs(dx) < 2 * Math.abs(t.clientY - began.y)) return
      e.preventDefault() // no press of what lies under the finger
      go(dx < 0 ? 1 : -1)
    },
  }
}

/** A press by hand leaves the focus nowhere, so that the space bar goes on afterwards; one by keyboard keeps it. */
const leaveFocus = (e: React.MouseEvent) => {
  if (e.detail > 0 && document.activeElement instanceof HTMLElement) document.activeElement.blur()
}

const stageKeys = {
  ' ': 'on',
  ArrowRight: 'on',
  ArrowLeft: 'back',
  ArrowDown: 'the next step',
  ArrowUp: 'the step before',
  Enter: 'turn: the other side, or the answer',
  p: 'play the sound',
  s: 'hide or show the script',
}
