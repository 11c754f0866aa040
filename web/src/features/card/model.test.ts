import { describe, expect, it } from 'vitest'
import type { Content } from '../../api/client'
import { emptyContent } from './emptyContent'
import { follow, takeTheirs, thingsOf } from './model'

const content = (part: Partial<Content>): Content => ({ ...emptyContent, ...part })

describe('two people on a card', () => {
  it('follows the fields that were not touched here', () => {
    const base = content({ rhyme: 'a', action: 'b' })
    const after = follow(base, content({ rhyme: 'mine', action: 'b' }), content({ rhyme: 'a', action: 'theirs' }))
    expect(after.rhyme).toBe('mine')
    expect(after.action).toBe('theirs')
  })

  it('takes theirs only where both changed', () => {
    const after = takeTheirs(content({ rhyme: 'mine', slip: 'mine' }), content({ rhyme: 'theirs', slip: 'theirs' }), [
      'rhyme',
    ])
    expect(after.rhyme).toBe('theirs')
    expect(after.slip).toBe('mine')
  })
})

describe('things of a tray', () => {
  it('are written in one line', () => {
    expect(thingsOf(' bus, bell;  a red boat ,, bus')).toEqual(['bus', 'bell', 'a red boat'])
    expect(thingsOf('')).toEqual([])
  })
})
