import { describe, expect, it } from 'vitest'
import { allowing, changed, materialsWith, moved, optionsWith, browserOf } from './model'

describe('lists of the team', () => {
  it('moves a step up and down', () => {
    expect(moved(['a', 'b', 'c'], 2, -1)).toEqual(['a', 'c', 'b'])
    expect(moved(['a', 'b', 'c'], 0, 1)).toEqual(['b', 'a', 'c'])
    expect(moved(['a'], 5, 1)).toEqual(['a'])
  })
  it('changes one entry only', () => {
    expect(changed([{ n: 1 }, { n: 2 }], 1, { n: 5 })).toEqual([{ n: 1 }, { n: 5 }])
  })
  it('allows a word once, in small letters', () => {
    expect(allowing(['lager'], ' Lager ')).toEqual(['lager'])
    expect(allowing(['lager'], 'Gun')).toEqual(['lager', 'gun'])
    expect(allowing([], ' ')).toEqual([])
  })
  it('reads no choice as all materials', () => {
    expect(materialsWith(['a', 'b'], undefined, 'a', false)).toEqual(['b'])
    expect(materialsWith(['a', 'b'], ['b'], 'a', true)).toEqual(['a', 'b'])
  })
  it('keeps only options that differ', () => {
    expect(optionsWith({ way: 'ask' }, { older: 0 })).toEqual({ way: 'ask', older: 0 })
    expect(optionsWith({ words: ['x'] }, { words: [], way: '' })).toEqual({})
  })
})

it('a browser is named as people know it', () => {
  const chrome = 'Mozilla/5.0 (X11; Linux x86_64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/130.0.0.0 Safari/537.36'
  expect(browserOf(chrome)).toBe('Chrome on Linux')
  expect(browserOf(`${chrome.replace('X11; Linux x86_64', 'Windows NT 10.0')} Edg/130.0`)).toBe('Edge on Windows')
  expect(browserOf('curl/8')).toBe('A browser')
})
