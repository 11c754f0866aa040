import { useState } from 'react'
import { clock } from '../../ui/clock'
import { Key } from '../../ui/parts'
import { recall, remember } from '../../ui/remembered'
import { speakers } from './model'
import { secondsOfStep } from './pace'
import type { Held } from './useHeld'

export const touch =
  'inline-flex min-h-12 items-center justify-center gap-2 rounded-lg border-2 border-chalk/60 px-4 text-lg font-bold hover:bg-chalk/10 disabled:opacity-45'

/** At which side "on" stands: where the hand is that presses it. */
function useHand() {
  const [hand, setHand] = useState<'left' | 'right'>(() => (recall('stage-hand') === 'left' ? 'left' : 'right'))
  const set = (to: 'left' | 'right') => {
    setHand(to)
    remember('stage-hand', to)
  }
  return [hand, set] as const
}

/** On, back, turn and what the screen offers; "on" is largest, in the corner of the hand. */
export function Controls({ held, tight = false }: { held: Held; tight?: boolean }) {
  const [hand, setHand] = useHand()
  const keys = (k: string) => (
    <span className="max-sm:hidden">
      <Key>{k}</Key>
    </span>
  )
  const h = held
  return (
    <div className={`flex flex-wrap items-end gap-2 sm:gap-3 ${hand === 'right' ? 'flex-row-reverse' : ''}`}>
      <button
        type="button"
        onClick={h.on}
        className={`${touch} border-marigold bg-marigold px-8 text-2xl text-ink hover:bg-marigold/80 ${tight ? 'min-h-16 flex-1 sm:min-w-40 sm:flex-none' : 'min-h-16 min-w-36'}`}
      >
        on {keys('space')}
      </button>
      <button type="button" className={touch} onClick={h.back} disabled={h.at === 0}>
        ← back
      </button>
      <button type="button" className={touch} onClick={h.turn}>
        turn {keys('enter')}
      </button>
      {h.blends ? (
        <button type="button" className={touch} onClick={() => h.play()}>
          {blendName(h)} {keys('p')}
        </button>
      ) : (
        <button
          type="button"
          className={touch}
          onClick={() => h.play()}
          disabled={h.pack !== undefined && h.pack.sounds.size === 0}
        >
          sound {keys('p')}
        </button>
      )}
      {h.bits.length > 0 && (
        <button type="button" className={touch} onClick={h.letter}>
          {h.place.shown === null ? 'one by one' : h.place.shown >= h.bits.length ? 'close up' : 'one more'} {keys('l')}
        </button>
      )}
      <span className="flex-1" />
      <button
        type="button"
        className="min-h-11 px-1 text-base text-chalk/90 underline underline-offset-4 max-sm:hidden"
        onClick={() => setHand(hand === 'right' ? 'left' : 'right')}
      >
        “on” to the {hand === 'right' ? 'left' : 'right'}
      </button>
    </div>
  )
}

const blendName = (h: Held) => {
  const gap = h.state.play.word === h.word ? h.state.play.gap : null
  return gap === null ? 'its sounds' : gap === 0 ? 'from the start' : gap <= 80 ? 'together' : 'closer'
}

/** What the adult says and the class does. */
export function Script({ held, large = false }: { held: Held; large?: boolean }) {
  const { screen, lesson } = held
  if (!screen) return null
  return (
    <div className={`flex gap-x-6 gap-y-2 ${large ? 'flex-col' : 'items-end max-sm:flex-col max-sm:items-stretch'}`}>
      <p
        className={`flex-1 leading-snug ${large ? 'text-2xl' : 'max-h-[22vh] min-h-16 self-end overflow-y-auto text-xl max-sm:self-stretch max-sm:text-lg'}`}
      >
        {screen.adult}
      </p>
      <div className={`rounded-lg border-l-4 border-marigold pl-3 text-xl ${large ? '' : 'sm:max-w-[34%]'}`}>
        {screen.voice && (
          <p className="text-2xl font-bold">
            <span aria-hidden className="text-marigold">
              {speakers[screen.voice][0]}
            </span>{' '}
            {speakers[screen.voice][1]}{' '}
            <span className="text-lg font-normal">({lesson.signs?.[screen.voice] ?? ''})</span>
          </p>
        )}
        <p>{screen.class}</p>
      </div>
      {large && held.step && held.step.cautions.length > 0 && (
        <p className="text-lg">
          <b>Care:</b> {held.step.cautions.join(' ')}
        </p>
      )}
    </div>
  )
}

/** The time: of the lesson, against the plan, and what falls out of the rest if it goes on so. */
export function Pace({ held }: { held: Held }) {
  const { seconds, lesson, planned, rest } = held
  const behind = seconds - planned
  return (
    <span className="tabular-nums" role="timer">
      {clock(seconds)} of {clock(lesson.minutes * 60)}
      {!held.state.clock.runs && <b className="ml-3 rounded bg-chalk px-2 text-ink">paused</b>}
      {behind > 30 && <b className="ml-3 rounded bg-coral px-2 text-ink">{clock(behind)} behind the plan</b>}
      {rest.out.length > 0 && (
        <b className="ml-3">
          falls out: {rest.out.map((id) => lesson.steps.find((s) => s.id === id)?.name).join(', ')}
        </b>
      )}
    </span>
  )
}

/** The plan's line, and where the clock is on it. */
export function PlanLine({ held }: { held: Held }) {
  const { lesson, state, planned, seconds } = held
  const total = Math.max(1, lesson.minutes * 60)
  return (
    <div aria-hidden className="relative flex h-3 w-full bg-slate-deep">
      {lesson.steps.map((s, i) => (
        <div
          key={s.id}
          style={{ width: `${(secondsOfStep(s, state) / total) * 100}%` }}
          className={`h-full border-r-2 border-slate ${i < (held.screen?.step ?? 0) ? 'bg-chalk/60' : i === held.screen?.step ? 'bg-chalk/40' : 'bg-chalk/15'}`}
        />
      ))}
      <div
        className="absolute inset-y-0 left-0 border-r-4 border-chalk"
        style={{ width: `${Math.min(100, (planned / total) * 100)}%` }}
      />
      <div
        className="absolute inset-y-0 w-1.5 bg-marigold"
        style={{ left: `${Math.min(99.6, (seconds / total) * 100)}%` }}
      />
    </div>
  )
}
