import { describe, expect, it } from 'vitest'
import type { Conventions } from '../../api/client'
import {
  agreedLines,
  isAsked,
  settings,
  valueAt,
  withValue,
  allowing,
  changed,
  materialsWith,
  moved,
  optionsWith,
  browserOf,
} from './model'

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

describe('what was agreed', () => {
  const none = { accent: 'southern-british', paper: 'A4', units: {} } as Conventions
  const line = (c: Conventions, about: string) => agreedLines(c, undefined).find(([label]) => label === about)?.[1]

  it('is said in words, also where nothing is stored and where the default is', () => {
    for (const agreeing of [undefined, '', 'lead'] as const)
      expect(line({ ...none, agreeing } as Conventions, 'Who agrees a card')).toBe('a lead')
    expect(line({ ...none, agreeing: 'two' }, 'Who agrees a card')).toContain('two who write')
    expect(line(none, 'Sign: all together')).toBe('arms open wide')
    expect(line(withValue(none, 'says.signs.both', 'both thumbs up'), 'Sign: all together')).toBe('both thumbs up')
  })

  it('holds every setting that is asked', () => {
    const labels = agreedLines(none, undefined).map(([label]) => label)
    for (const s of settings.filter((one) => isAsked(none, one))) expect(labels).toContain(s.label)
    expect(labels).not.toContain('Why they are said short')
  })

  it('changes one setting and leaves the others', () => {
    const before = withValue(none, 'says.mistake', 'try again')
    const after = withValue(before, 'says.signs.adult', 'a hand up')
    expect(valueAt(after, 'says.mistake')).toBe('try again')
    expect(valueAt(before, 'says.signs.adult')).toBeUndefined()
  })
})
