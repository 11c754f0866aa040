import { describe, expect, it } from 'vitest'
import type { WallCard } from '../../api/client'
import { everything, ledges, matches, standing, step } from './model'

const card = (n: number, part: Partial<WallCard> = {}): WallCard => ({
  card_id: `c${n}`,
  step: n,
  pair: { grapheme: 'abcdefghijkl'[n - 1] ?? 'z', sound: 'x' },
  kind: 'letter',
  state: 'draft',
  version: 1,
  updated_by: '',
  keyword: '',
  as_in: '',
  picture: '',
  picture_alt: '',
  rhyme: '',
  action: '',
  take_id: '',
  gaps: [],
  remarks: 0,
  archived: false,
  along: [`c${n}`],
  ...part,
})
const ten = Array.from({ length: 10 }, (_, i) => card(i + 1))

describe('the wall', () => {
  it('puts four cards on a ledge and keeps their week when filtered', () => {
    expect(ledges(ten, everything).map((l) => l.cards.length)).toEqual([4, 4, 2])
    const found = ledges([...ten, card(11, { keyword: 'kettle' })], { ...everything, text: 'kett' })
    expect(found).toHaveLength(1)
    expect(found[0]?.week).toBe(3)
  })

  it('finds by grapheme, keyword, state and what is missing', () => {
    const c = card(1, { keyword: 'axle', state: 'agreed', gaps: [{ part: 'take', text: '' }], remarks: 1 })
    expect(matches(c, { ...everything, text: ' A' })).toBe(true)
    expect(matches(c, { ...everything, text: 'xle' })).toBe(true)
    expect(matches(c, { ...everything, state: 'draft' })).toBe(false)
    expect(matches(c, { ...everything, needs: 'take' })).toBe(true)
    expect(matches(c, { ...everything, needs: 'picture' })).toBe(false)
    expect(matches(c, { ...everything, needs: 'something' })).toBe(true)
    expect(matches(c, { ...everything, needs: 'mending' })).toBe(true)
  })

  it('moves along the order and between ledges', () => {
    const rows = ledges(ten, everything)
    expect(step(rows, 'c4', 'ArrowRight')).toBe('c5')
    expect(step(rows, 'c5', 'ArrowLeft')).toBe('c4')
    expect(step(rows, 'c8', 'ArrowDown')).toBe('c10')
    expect(step(rows, 'c9', 'ArrowUp')).toBe('c5')
    expect(step(rows, 'c1', 'ArrowUp')).toBeUndefined()
    expect(step(rows, 'gone', 'ArrowUp')).toBe('c1')
    expect(step(rows, 'c1', 'q')).toBeUndefined()
  })

  it('says what is taught, next and later', () => {
    const taught = new Set(['c1'])
    expect([1, 2, 3].map((n) => standing(card(n), taught, 'c2'))).toEqual(['taught', 'next', 'later'])
    expect(standing(card(3), undefined, undefined)).toBe('taught')
  })

  it('finds the cards with an open remark as in need of mending', () => {
    const list = [card(1, { remarks: 1 }), card(2)]
    const found = list.filter((c) => matches(c, { ...everything, needs: 'mending' }))
    expect(found.map((c) => c.card_id)).toEqual(['c1'])
  })
})
