import type { Schemas } from '../api/client'

/** A letter, group or word as the team writes it, stroke by stroke. */
export type Written = Schemas['StrokesWritten']
