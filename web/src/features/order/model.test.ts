import { describe, expect, it } from 'vitest'
import { fitted, moveBy, moveTo, range } from './model'

const ids = ['a', 'b', 'c', 'd', 'e']
const text = (list: string[]) => list.join('')

describe('moving cards of an order', () => {
  it('puts one or several where another stands', () => {
    expect(text(moveTo(ids, new Set(['a']), 'd'))).toBe('bcdae')
    expect(text(moveTo(ids, new Set(['e']), 'b'))).toBe('aebcd')
    expect(text(moveTo(ids, new Set(['a', 'c']), 'e'))).toBe('bdeac')
    expect(text(moveTo(ids, new Set(['a', 'c']), 'c'))).toBe('abcde')
  })

  it('moves a block step by step and stops at the ends', () => {
    expect(text(moveBy(ids, new Set(['b']), 1))).toBe('acbde')
    expect(text(moveBy(ids, new Set(['b', 'd']), -1))).toBe('bdace')
    expect(text(moveBy(ids, new Set(['b']), -4))).toBe('bacde')
    expect(text(moveBy(ids, new Set(['d']), 4))).toBe('abced')
  })

  it('loses and doubles nothing, whatever is moved where', () => {
    for (let mask = 1; mask < 32; mask++) {
      const picked = new Set(ids.filter((_, i) => mask & (1 << i)))
      for (const over of ids) expect(moveTo(ids, picked, over).sort()).toEqual(ids)
      for (let by = -6; by <= 6; by++) expect(moveBy(ids, picked, by).sort()).toEqual(ids)
    }
  })

  it('picks a range either way and fits an older order to the library', () => {
    expect(text(range(ids, 'd', 'b'))).toBe('bcd')
    expect(text(fitted(['e', 'gone', 'a'], ids))).toBe('eabcd')
  })
})
