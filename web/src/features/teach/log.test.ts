import { expect, it } from 'vitest'
import type { LessonView } from '../../api/client'
import { allSure, bodyOf, draftOf } from './log'

const view = (untouched: Record<string, number> = {}) =>
  ({
    lesson: { targets: ['sh'], steps: [], cards: { sh: {} } },
    sure: [],
    untouched,
  }) as unknown as LessonView
const noted = { shown: new Set(['sh']), unsure: new Map<string, number>(), skipped: new Set<string>() }

it('notes a card that was shown and not touched as sure, or as what the server worked out', () => {
  expect(draftOf(view(), new Map(), noted).sure).toEqual({ sh: { sure: 2 } })
  expect(draftOf(view({ sh: 3 }), new Map(), noted).sure).toEqual({ sh: { sure: 3 } })
})

it('sends how long steps were held: of an hour too, not of one that was left open all day', () => {
  const took = new Map([
    ['read', 1500],
    ['write', 3600],
    ['left open', 7201],
    ['passed over', 0],
  ])
  expect(bodyOf(draftOf(view()), '', took).took).toEqual([
    { step_id: 'read', seconds: 1500 },
    { step_id: 'write', seconds: 3600 },
  ])
})

it('makes all cards sure at one press, and keeps what was noted beside them', () => {
  const draft = { ...draftOf(view()), note: 'wind outside', sure: { sh: { sure: 0, reading: 1 } } }
  expect(allSure(view(), draft)).toEqual({ ...draft, sure: { sh: { sure: 2, reading: 1 } } })
})
