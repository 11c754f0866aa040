import { useEffect, useMemo, useRef, useState } from 'react'
import type { Bit, LessonView, StepKind } from '../../api/client'
import { nextGap } from './blend'
import { anew, secondsOf, sideKey, start, tapped, type Own, type Place } from './marks'
import { jump, layouts, screens } from './model'
import { along, leftBehind, plannedUntil, rest } from './pace'
import { unrecorded } from './usePlayer'
import { usePreload, type Pack } from './usePreload'
import { useRun } from './useRun'

const longPause = 15 * 60_000

/** A lesson that is being held: where it stands, and all that a face of it can do. */
export function useHeld(view: LessonView, kinds: readonly StepKind[], face: 'board' | 'desk', carried?: Pack) {
  const lesson = view.lesson
  const [list] = useState(() => screens(lesson, layouts(kinds)))
  const ranks = useMemo(() => new Map(kinds.map((k) => [k.kind, k.rank])), [kinds])
  const loaded = usePreload(lesson, face === 'board' && !carried)
  const { missing, withdrawn } = loaded
  const pack = carried ?? loaded.pack // what a file brings, or the server
  const run = useRun(view.lesson_id, face, !carried)
  const { state, set, clock } = run
  const at = Math.min(state.place.screen, list.length)
  const screen = list[Math.min(at, list.length - 1)]
  const step = screen ? lesson.steps[screen.step] : undefined
  const place: Place = useMemo(() => ({ ...state.place, screen: at }), [state.place, at])

  // What stood for long was stopped, by the bell or by the day: it asks before it goes on.
  const [decided, setDecided] = useState<'goes on' | 'asks'>()
  const ready = (face === 'desk' || pack !== undefined) && decided !== undefined
  const { asked } = run
  const begun = state.clock.at > 0
  const stood = begun && (!state.clock.runs || state.ended || clock() - state.clock.at > longPause)
  if (asked && decided === undefined) setDecided(stood ? 'asks' : 'goes on')
  useEffect(() => {
    if (ready && !begun && decided === 'goes on') set({ clock: { seconds: 0, runs: true, at: clock() } })
  }, [ready, begun, decided, set, clock])

  const [, tick] = useState(0)
  const counts = state.clock.runs && !state.ended
  useEffect(() => {
    if (!counts) return
    const t = setInterval(() => tick((n) => n + 1), 500)
    return () => clearInterval(t)
  }, [counts])
  const seconds = secondsOf(state.clock, clock())
  const touched = (runs = true) => ({ seconds: secondsOf(state.clock, clock()), runs, at: clock() })

  const move = (to: number) => {
    const screen = Math.max(0, Math.min(list.length, to))
    const now = touched()
    set({
      at: { ...start, screen },
      clock: now,
      ...leftBehind(lesson, list, state, at, screen, now.seconds),
      ...(screen >= list.length ? { ended: true } : {}),
    })
  }
  const put = (part: Partial<Place>) => set({ at: { ...place, ...part } })
  const word = place.own?.word ?? (screen?.show.kind === 'word' ? screen.show.word : undefined)
  const bits: readonly Bit[] = place.own?.bits ?? (screen?.show.kind === 'word' ? screen.show.bits : [])
  const soundOf = screen && 'face' in screen.show ? screen.show.face.id : (lesson.targets[0] ?? '')
  const blends =
    word !== undefined &&
    (pack
      ? unrecorded(bits, pack).length === 0
      : bits.every((b) => b.sound === '' || (b.card && lesson.cards[b.card]?.has_take)))
  const lastPlay = useRef({ screen: -1, gap: null as number | null })
  const play = (gap?: number) => {
    if (!word || !blends) {
      set({ played: { n: state.play.n + 1, card: soundOf, gap: null } })
      return
    }
    const before = lastPlay.current.screen === at && state.play.gap !== null ? state.play.gap : null
    const next = gap ?? nextGap(before)
    lastPlay.current = { screen: at, gap: next }
    set({ played: { n: state.play.n + 1, card: '', gap: next, word } })
  }

  return {
    view,
    lesson,
    list,
    pack,
    missing,
    withdrawn,
    run,
    state,
    place,
    at,
    screen,
    step,
    seconds,
    ready,
    bits,
    word,
    blends,
    over: state.ended,
    resumes: decided === 'asks',
    goOn: () => {
      setDecided('goes on')
      set({
        clock: touched(),
        ended: false,
        ...(at >= list.length ? { at: { ...start, screen: list.length - 1 } } : {}),
      })
    },
    beginAnew: () => {
      setDecided('goes on')
      set(anew(run.marks, clock()))
    },
    planned: plannedUntil(lesson, list, at, state),
    rest: rest(lesson, list, at, state, seconds, ranks),
    move,
    on: () => move(along(lesson, list, at, 1, state.skipped)),
    back: () => move(along(lesson, list, at, -1, state.skipped)),
    jump: (by: 1 | -1) => move(jump(list, at, by)),
    toStep: (i: number) => move(list.findIndex((s) => s.step === i)),
    turn: () => put({ turned: !place.turned, open: '', shown: null }),
    open: (card: string) =>
      set({ at: { ...place, open: card }, ...(card ? { played: { n: state.play.n + 1, card, gap: null } } : {}) }),
    letter: () => {
      if (bits.length === 0) return
      const now = place.shown ?? 0
      put({ shown: now >= bits.length ? null : now + 1, turned: true })
    },
    play,
    own: (own: Own | null) => set({ at: { ...place, own, open: '', shown: null, turned: false } }),
    order: (order: number[]) => set({ [`order.${at}`]: order }),
    side: (word: string, side: string) => set({ [`side.${sideKey(screen?.step ?? 0, word)}`]: side }),
    tap: (card: string) => set({ [`sure.${card}`]: tapped(state.unsure.get(card)) }),
    skip: (id: string) => set({ [`skip.${id}`]: !state.skipped.has(id) }),
    longer: (id: string, by: number) => set({ [`more.${id}`]: (state.more.get(id) ?? 0) + by }),
    pause: () => set({ clock: touched(!state.clock.runs) }),
    /** Whoever leaves stops the clock; coming back asks whether to go on. */
    leave: () => set({ clock: touched(false) }),
    strip: () => set({ strip: !state.strip }),
    showStrip: (on: boolean) => set({ strip: on }),
    end: () => set({ ended: true, clock: touched(false) }),
    reopen: () => set({ ended: false, clock: touched(), at: { ...start, screen: Math.min(at, list.length - 1) } }),
  }
}

export type Held = ReturnType<typeof useHeld>

/** The keys of a lesson, the same on every face. */
export const keysOf = (h: Held) => ({
  ' ': h.on,
  ArrowRight: h.on,
  PageDown: h.on,
  Backspace: h.back,
  ArrowLeft: h.back,
  PageUp: h.back,
  ArrowDown: () => h.jump(1),
  ArrowUp: () => h.jump(-1),
  Enter: h.turn,
  p: () => h.play(),
  l: h.letter,
  m: () => (h.screen?.show.kind === 'write' ? h.turn() : false),
  Escape: () => (h.place.open ? h.open('') : h.place.own ? h.own(null) : false),
})

export const heldKeys = {
  ' ': 'on',
  ArrowRight: 'on',
  ArrowLeft: 'back',
  ArrowDown: 'the next step',
  ArrowUp: 'the step before',
  Enter: 'turn: the other side, or the answer',
  p: 'play the sound; a word: its sounds, closer with each press',
  l: 'a word: one letter more, then closed up',
  m: 'a letter that writes itself: mirrored, to face the class',
}
