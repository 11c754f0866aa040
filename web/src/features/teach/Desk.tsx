import { useEffect, useRef, useState } from 'react'
import { Link } from '@tanstack/react-router'
import { clock } from '../../ui/clock'
import { Shape } from '../../ui/Shape'
import { useOwnWord } from './api'
import { Controls, Pace, PlanLine, Script, touch } from './Controls'
import { cardsOf } from './log'
import { Phones } from './Phones'
import { secondsOfStep } from './pace'
import type { Screen } from './model'
import type { Held } from './useHeld'
import { useSwipe } from './useSwipe'

/** What the adult has in front: what the board shows and hides, what to say, the log as it happens, and what comes. */
export function Desk({ held, guest }: { held: Held; guest: boolean }) {
  const { screen, step, lesson } = held
  const swipe = useSwipe((way) => (way > 0 ? held.on() : held.back()))
  if (!screen || !step) return null
  return (
    <main
      className="slate flex min-h-screen flex-col bg-slate text-chalk"
      data-face="desk"
      data-screen={held.at}
      data-turned={held.place.turned}
      data-step={step.kind}
      {...swipe}
    >
      <header className="sticky top-0 z-10 bg-slate">
        <div className="flex flex-wrap items-center gap-x-4 gap-y-1 px-4 pt-3 text-lg">
          <Shape family={step.family} className="size-8" />
          <h1 className="text-2xl font-bold outline-none">{step.name}</h1>
          <span className="text-chalk/80">
            step {screen.step + 1} of {lesson.steps.length}
          </span>
          <span className="ml-auto">
            <Pace held={held} />
          </span>
        </div>
        <div className="px-4 pt-1">
          <PlanLine held={held} />
        </div>
      </header>
      <div className="grid flex-1 grid-cols-[minmax(0,1fr)] content-start gap-x-8 gap-y-4 px-4 py-3 lg:grid-cols-[minmax(0,3fr)_minmax(0,2fr)]">
        <div className="flex flex-col gap-4">
          <OnTheBoard held={held} />
          <Script held={held} large />
          <Taps held={held} />
        </div>
        <div className="flex flex-col gap-4">
          <OwnWordField held={held} />
          <Steps held={held} />
          <LineState held={held} />
          <div className="flex flex-wrap gap-3">
            <button type="button" className={touch} onClick={held.pause}>
              {held.state.clock.runs ? 'Pause' : 'Go on'}
            </button>
            <button type="button" className={touch} onClick={held.end}>
              End and log
            </button>
            {!guest && (
              <>
                <a
                  className={touch}
                  href={`/teach/${held.view.lesson_id}?face=board`}
                  target={`board-${held.view.lesson_id}`}
                >
                  Board in its own window
                </a>
                <Link
                  to="/lessons/$lessonId"
                  params={{ lessonId: held.view.lesson_id }}
                  className={touch}
                  onClick={held.leave}
                >
                  Leave
                </Link>
              </>
            )}
          </div>
          {!guest && <Phones lessonId={held.view.lesson_id} />}
        </div>
      </div>
      <div className="sticky bottom-0 bg-slate px-4 pt-2 pb-3">
        <Controls held={held} tight />
      </div>
    </main>
  )
}

/** The board in words, with what it hides from the children. */
function OnTheBoard({ held }: { held: Held }) {
  const { screen, place, list, lesson } = held
  if (!screen) return null
  const next = list[held.at + 1]
  const nextStep = next && lesson.steps[next.step]
  return (
    <section aria-label="on the board" className="rounded-xl border-2 border-chalk/50 p-3">
      <p className="text-base text-chalk/80">
        {place.own ? 'a child’s own word' : hides(screen, place.turned) ? 'hidden from the class' : 'on the board'}
      </p>
      <p className="font-child text-5xl leading-tight break-words">{place.own?.word ?? nameOf(screen)}</p>
      <p className="pt-1 text-base text-chalk/80">
        {nextStep
          ? `next: ${next.step === screen.step ? '' : `${nextStep.name}, ${clock(secondsOfStep(nextStep, held.state))}: `}${nameOf(next)}`
          : 'next: the end of the lesson'}
      </p>
    </section>
  )
}

const hides = (s: Screen, turned: boolean) =>
  !turned &&
  ((s.show.kind === 'word' && s.show.hidden === 'sounds') || s.show.kind === 'hidden' || s.show.kind === 'sort')

/** What a screen shows, in a word or two for the adult. */
export function nameOf({ show }: Screen): string {
  switch (show.kind) {
    case 'letter':
    case 'hidden':
    case 'write':
    case 'over':
      return show.face.pair.grapheme
    case 'picture':
      return `picture of ${show.face.pair.grapheme}: ${show.face.keyword}`
    case 'mouth':
      return 'the mouth'
    case 'wave':
      return 'the sound'
    case 'word':
    case 'drawing':
      return show.word
    case 'sort':
      return `${show.now.word} (${show.now.side})`
    case 'quarters':
      return show.pictures.map((p) => p.word).join(', ')
    case 'sentence':
    case 'pieces':
    case 'text':
      return show.text
    case 'page':
      return show.text.split('\n')[0] ?? ''
    case 'set':
      return show.faces.find((f) => f.id === show.asked)?.pair.grapheme ?? ''
    case 'sign':
      return show.name
  }
}

const levels = ['not yet', 'shaky', 'sure'] as const

/** The log as it happens: what is not touched was sure, one tap is shaky, two not yet. */
function Taps({ held }: { held: Held }) {
  const { lesson, state, view, screen } = held
  const now = screen && 'face' in screen.show ? screen.show.face.id : undefined
  return (
    <section aria-label="the log, as it happens">
      <p className="pb-1 text-base text-chalk/80">How it goes: not touched is sure, one tap shaky, two taps not yet.</p>
      <ul className="flex flex-wrap gap-2">
        {cardsOf(view).map((id) => {
          const level = state.unsure.get(id)
          const grapheme = lesson.cards[id]?.pair.grapheme ?? ''
          return (
            <li key={id}>
              <button
                type="button"
                data-card={id}
                data-level={level ?? 2}
                onClick={() => held.tap(id)}
                className={`flex min-h-14 min-w-16 flex-col items-center rounded-lg border-2 px-2 py-1 leading-none ${level === undefined ? 'border-chalk/50' : level === 1 ? 'border-marigold bg-marigold text-ink' : 'border-coral bg-coral text-ink'} ${id === now ? 'outline-4 outline-offset-2 outline-sky' : ''}`}
              >
                <span className="font-child text-2xl">{grapheme}</span>
                <span className="text-sm font-bold">
                  {level === undefined ? '✓ ' : level === 1 ? '~ ' : '× '}
                  {levels[level ?? 2]}
                </span>
              </button>
            </li>
          )
        })}
      </ul>
    </section>
  )
}

/** A word that a child brought: on the board at once, or it says what is not taught yet. */
function OwnWordField({ held }: { held: Held }) {
  const [word, setWord] = useState('')
  const ask = useOwnWord(held.view.lesson_id)
  const found = ask.data?.word === word.trim().toLowerCase() ? ask.data : undefined
  const show = () => {
    if (!found) return
    held.own({ word: found.word, bits: found.bits })
    setWord('')
  }
  return (
    <form
      aria-label="a child’s own word"
      className="flex flex-col gap-2"
      onSubmit={(e) => {
        e.preventDefault()
        if (word.trim())
          ask.mutate(word, {
            onSuccess: (w) => {
              if (!w.readable || w.guess) return
              held.own({ word: w.word, bits: w.bits })
              setWord('')
            },
          })
      }}
    >
      <label className="text-base text-chalk/80" htmlFor="own-word">
        A child’s own word
      </label>
      <div className="flex flex-wrap gap-2">
        <input
          id="own-word"
          value={word}
          maxLength={40}
          autoComplete="off"
          autoCapitalize="none"
          spellCheck={false}
          onChange={(e) => setWord(e.target.value)}
          className="min-h-12 w-40 flex-1 rounded-lg border-2 border-chalk/60 bg-slate-deep px-3 font-child text-2xl text-chalk"
        />
        <button type="submit" className={touch} disabled={word.trim() === '' || ask.isPending}>
          show it
        </button>
        {held.place.own && (
          <button type="button" className={touch} onClick={() => held.own(null)}>
            take it off
          </button>
        )}
      </div>
      <p role="status" className="min-h-6 text-base">
        {ask.error && `! ${ask.error.message}`}
        {found && !found.readable && `× ${found.why}`}
        {found?.readable && found.guess && 'This word is in no list: its bridges are a guess.'}
      </p>
      {found && (!found.readable || found.guess) && !held.place.own && (
        <button type="button" className={touch} onClick={show}>
          show it all the same
        </button>
      )}
    </form>
  )
}

/** The steps: where it stands, what falls out; each can be gone to, left out, and given more time. */
function Steps({ held }: { held: Held }) {
  const { lesson, screen, state, rest } = held
  const list = useRef<HTMLOListElement>(null)
  const here = screen?.step ?? 0
  useEffect(() => {
    const row = list.current?.children[Math.max(0, here - 1)]
    if (list.current && row instanceof HTMLElement) list.current.scrollTop = row.offsetTop - list.current.offsetTop
  }, [here])
  return (
    <details open className="rounded-xl border-2 border-chalk/50 p-3">
      <summary className="min-h-11 content-center font-bold">
        Steps{rest.over > 0 && `: ${clock(rest.over)} too long`}
      </summary>
      <ol ref={list} className="flex max-h-[19rem] flex-col overflow-y-auto">
        {lesson.steps.map((s, i) => {
          const now = screen?.step === i
          const skipped = state.skipped.has(s.id)
          const falls = rest.out.includes(s.id)
          return (
            <li key={s.id} className="flex flex-wrap items-center gap-2 border-b border-chalk/20 py-0.5">
              <button
                type="button"
                onClick={() => held.toStep(i)}
                aria-current={now ? 'step' : undefined}
                className={`flex min-h-11 min-w-0 flex-1 items-center gap-2 rounded px-1 text-left ${now ? 'bg-chalk/15 font-bold' : ''}`}
              >
                <Shape family={s.family} className="size-6 shrink-0" />
                <span className={skipped ? 'line-through' : ''}>{s.name}</span>
                <span className="ml-auto text-base whitespace-nowrap text-chalk/80 tabular-nums">
                  {skipped ? 'left out' : clock(secondsOfStep(s, state))}
                  {falls && !skipped && <b className="ml-2 rounded bg-coral px-1 text-ink">falls out</b>}
                </span>
              </button>
              <button
                type="button"
                aria-label={`+2 minutes for ${s.name}`}
                className={small}
                onClick={() => held.longer(s.id, 120)}
              >
                +2
              </button>
              <button
                type="button"
                aria-label={skipped ? `put ${s.name} in again` : `leave out ${s.name}`}
                className={small}
                onClick={() => held.skip(s.id)}
              >
                {skipped ? 'in' : 'out'}
              </button>
            </li>
          )
        })}
      </ol>
    </details>
  )
}

const small = 'min-h-11 min-w-11 rounded-lg border-2 border-chalk/40 px-2 text-base font-bold hover:bg-chalk/10'

function LineState({ held }: { held: Held }) {
  return (
    <p role="status" className="text-base text-chalk/80">
      {held.run.line === 'live' && '✓ in step with the board'}
      {held.run.line === 'waiting' && '○ no line: the board goes on by itself, and hears of this when it is back'}
      {held.run.line === 'alone' && '✓ on this machine alone'}
      {held.withdrawn.length > 0 && ' · a recording was withdrawn: say that sound yourself'}
    </p>
  )
}
