import { describe, expect, it } from 'vitest'
import { CallError, type CardView, type Content, type Problem } from '../../api/client'
import { begin, draftReducer, isStopped } from './draft'
import { emptyContent } from './emptyContent'

const card = (version: number, part: Partial<Content>) =>
  ({ card_id: 'c', version, content: { ...emptyContent, ...part } }) as CardView

/** What the server says where somebody else changed the rhyme meanwhile. */
const clash = (theirs: CardView) =>
  new CallError(409, { detail: 'changed', conflict: { fields: ['rhyme'], by: 'BS', theirs } } as unknown as Problem)

const typed = (rhyme: string) =>
  draftReducer(begin({ card: card(1, { rhyme: 'Pip' }) }), { type: 'typed', part: { rhyme } })

describe('a clash about a field', () => {
  it('goes on where the other text ends: the writing went to another tab', () => {
    const after = draftReducer(typed('Pip and Pop'), { type: 'failed', error: clash(card(2, { rhyme: 'Pip and' })) })
    expect(after.conflict).toBeUndefined()
    expect(after.draft.rhyme).toBe('Pip and Pop')
    expect(after.base.version).toBe(2)
  })

  it('stops where somebody else emptied the field, so that nobody’s decision is overwritten', () => {
    const after = draftReducer(typed('Pip and Pop'), { type: 'failed', error: clash(card(2, { rhyme: '' })) })
    expect(after.conflict?.by).toBe('BS')
    expect(isStopped(after)).toBe(true)
  })

  it('stops where somebody else wrote something else', () => {
    const after = draftReducer(typed('Pip and Pop'), { type: 'failed', error: clash(card(2, { rhyme: 'Moss' })) })
    expect(after.conflict).toBeDefined()
  })

  it('takes theirs, or keeps mine, as the person decides', () => {
    const stopped = draftReducer(typed('Pip and Pop'), { type: 'failed', error: clash(card(2, { rhyme: 'Moss' })) })
    expect(draftReducer(stopped, { type: 'resolved', whose: 'theirs' }).draft.rhyme).toBe('Moss')
    expect(draftReducer(stopped, { type: 'resolved', whose: 'mine' }).draft.rhyme).toBe('Pip and Pop')
  })
})

it('a version by somebody else is shown only while nothing is being written', () => {
  const newer = { type: 'arrived', card: card(2, { rhyme: 'Moss' }) } as const
  expect(draftReducer(begin({ card: card(1, { rhyme: 'Pip' }) }), newer).draft.rhyme).toBe('Moss')
  expect(draftReducer(typed('Pip and'), newer).draft.rhyme).toBe('Pip and')
})
