import type { Lesson, Step } from '../../api/client'
import type { State } from './marks'
import type { Screen } from './model'

/** Seconds of a step as it is to be held now. */
export const secondsOfStep = (s: Step, state: Pick<State, 'skipped' | 'more'>) =>
  state.skipped.has(s.id) ? 0 : s.seconds + (state.more.get(s.id) ?? 0)

/** Seconds planned until the end of a screen: the steps before, and its part of its own step. */
export function plannedUntil(
  lesson: Lesson,
  list: readonly Screen[],
  at: number,
  state: Pick<State, 'skipped' | 'more'>,
): number {
  const screen = list[at]
  const sum = (steps: readonly Step[]) => steps.reduce((all, s) => all + secondsOfStep(s, state), 0)
  if (!screen) return sum(lesson.steps)
  const step = lesson.steps[screen.step]
  const own = list.filter((s) => s.step === screen.step).length
  const place = list.slice(0, at + 1).filter((s) => s.step === screen.step).length
  return sum(lesson.steps.slice(0, screen.step)) + ((step ? secondsOfStep(step, state) : 0) * place) / Math.max(1, own)
}

export type Rest = {
  /** Seconds by which the rest is longer than the time that is left; 0 or less: all fits. */
  over: number
  /** Steps to leave out so that it fits, in the order of the lesson: of the rest, those that matter least. */
  out: string[]
}

/** What falls out of the rest of a lesson. The step that is held now stays. */
export function rest(
  lesson: Lesson,
  list: readonly Screen[],
  at: number,
  state: Pick<State, 'skipped' | 'more'>,
  seconds: number,
  ranks: ReadonlyMap<string, number>,
): Rest {
  const total = lesson.steps.reduce((all, s) => all + secondsOfStep(s, state), 0)
  const done = at > 0 ? plannedUntil(lesson, list, at - 1, state) : 0
  const over = total - done - (lesson.minutes * 60 - seconds)
  const later = lesson.steps.slice((list[at]?.step ?? lesson.steps.length) + 1).filter((s) => !state.skipped.has(s.id))
  const rankOf = (s: Step) => ranks.get(s.kind) ?? 50
  const out = new Set<string>()
  let still = over
  for (const s of [...later].sort((a, b) => rankOf(a) - rankOf(b))) {
    if (still <= slack) break
    out.add(s.id)
    still -= secondsOfStep(s, state)
  }
  return { over: over > slack ? over : 0, out: later.filter((s) => out.has(s.id)).map((s) => s.id) }
}

/** A lesson may run over by so many seconds before anything falls out. */
const slack = 45

/** The next screen that is not of a skipped step, forwards or back; the length of the list after the last. */
export function along(lesson: Lesson, list: readonly Screen[], at: number, by: 1 | -1, skipped: ReadonlySet<string>) {
  let to = at + by
  const out = (i: number) => {
    const step = lesson.steps[list[i]?.step ?? -1]
    return step !== undefined && skipped.has(step.id)
  }
  while (to >= 0 && to < list.length && out(to)) to += by
  return to < 0 ? at : to
}

/** What is noted when a move leaves a step: how long it was held in all, and from when on the next one is. */
export function leftBehind(
  lesson: Lesson,
  list: readonly Screen[],
  state: Pick<State, 'since' | 'took'>,
  from: number,
  to: number,
  seconds: number,
): Record<string, number> {
  const step = lesson.steps[list[from]?.step ?? -1]
  if (!step || list[to]?.step === list[from]?.step) return {}
  const held = Math.max(0, Math.round(seconds - state.since)) + (state.took.get(step.id) ?? 0)
  return { since: seconds, [`took.${step.id}`]: held }
}
