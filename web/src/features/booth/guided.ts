/** How often one sound is tried before it is put off. */
export const mostTries = 3

export type Phase = 'stopped' | 'ready' | 'say' | 'hold' | 'judging' | 'told'

/** A batch on its way: the sounds still to be said, those put off, and those that have their take. */
export type Batch = {
  phase: Phase
  queue: readonly string[]
  later: readonly string[]
  done: readonly string[]
  tries: number
  /** Counts every try of the batch. */
  turn: number
  pure: boolean
  advice: string
}

export type Step =
  | { kind: 'begin'; cards: readonly string[] }
  | { kind: 'phase'; phase: 'ready' | 'say' | 'hold' | 'judging' }
  | { kind: 'judged'; pure: boolean; advice: string }
  | { kind: 'next' }
  | { kind: 'later' }
  | { kind: 'stop' }

export const noBatch: Batch = {
  phase: 'stopped',
  queue: [],
  later: [],
  done: [],
  tries: 0,
  turn: 0,
  pure: false,
  advice: '',
}

/** A pure take brings the next sound; one that is not is tried again, three times at most, then it is put off. */
export function reduce(b: Batch, s: Step): Batch {
  const [now, ...rest] = b.queue
  switch (s.kind) {
    case 'begin':
      return onward({ ...noBatch, turn: b.turn, queue: s.cards })
    case 'phase':
      return b.phase === 'stopped' ? b : { ...b, phase: s.phase }
    case 'judged':
      return b.phase === 'stopped' ? b : { ...b, phase: 'told', pure: s.pure, advice: s.advice, tries: b.tries + 1 }
    case 'next':
      if (now === undefined || b.phase !== 'told') return b
      if (b.pure) return onward({ ...b, done: [...b.done, now], queue: rest })
      return b.tries >= mostTries
        ? onward({ ...b, later: [...b.later, now], queue: rest })
        : { ...b, phase: 'ready', turn: b.turn + 1 }
    case 'later':
      return now === undefined ? b : onward({ ...b, later: [...b.later, now], queue: rest })
    case 'stop':
      return { ...b, phase: 'stopped' }
  }
}

const onward = (b: Batch): Batch => ({
  ...b,
  tries: 0,
  turn: b.turn + 1,
  advice: '',
  phase: b.queue.length > 0 ? 'ready' : 'stopped',
})

/** How long each part of a try lasts, in milliseconds: silence, the light, silence; then the verdict is shown. */
export const course = { ready: 900, say: 1600, hold: 700, pure: 900, again: 3200 }
