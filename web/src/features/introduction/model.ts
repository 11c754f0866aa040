import type { Choice, Lesson, Step } from '../../api/client'

export type Measure = { step: Step; from: number; share: number }

/** The score: where each step begins and how wide it is, as shares of the longer of plan and lesson. */
export function measures(lesson: Lesson): { bars: Measure[]; end: number; over: number } {
  const planned = lesson.minutes * 60
  const whole = Math.max(planned, lesson.seconds)
  let at = 0
  const bars = lesson.steps.map((step) => {
    const bar = { step, from: at, share: step.seconds / whole }
    at += step.seconds
    return bar
  })
  return { bars, end: planned / whole, over: lesson.seconds - planned > 15 ? lesson.seconds - planned : 0 }
}

/** What a choice is called on the screen. */
export function label(choice: Choice, lesson: Lesson): string {
  if (choice.kind !== 'card') return choice.value
  const face = lesson.cards[choice.value]
  return face ? face.pair.grapheme : '?'
}

/** One line that says what a step holds, for the closed row. */
export function summary(step: Step, lesson: Lesson): string {
  const names = step.choices.filter((c) => c.basket !== 'has-not').map((c) => label(c, lesson))
  if (names.length) return names.join(' · ')
  return step.adult[0] ?? ''
}
