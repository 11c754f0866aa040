import { describe, expect, it } from 'vitest'
import { askedOf, askOf, limited, noLimits, oneOf, plainFind, positions, listed, unlisted } from './model'

const klass = { class: 'heron', next: 'sh', made: false }

describe('the finder in the address', () => {
  it('asks for the next sound in any shape where it says nothing', () => {
    expect(askOf(plainFind, klass)).toMatchObject({ class: 'heron', card: 'sh', frame: '', pictures: false, seed: 1 })
    expect(askOf(plainFind, { ...klass, made: true }).frame).toBe('CVC')
  })
  it('reads what it was told, and nothing that it does not know', () => {
    const at = { ...plainFind, ...askedOf({ card: '', position: 'final', sounds: 3, pictures: true, frame: '' }) }
    expect(askOf(at, { ...klass, made: true })).toMatchObject({
      card: '',
      position: 'final',
      sounds: 3,
      pictures: true,
      frame: '',
    })
    expect(oneOf(positions, 'nowhere')).toBe('any')
    expect(askOf({ ...plainFind, sounds: 'many' }, klass).sounds).toBe(0)
  })
  it('holds picked words as one value', () => {
    expect(unlisted(listed(['ship', 'shop']))).toEqual(['ship', 'shop'])
    expect(unlisted(listed([]))).toEqual([])
  })

  it.each(['frame', 'pictures', 'sounds', 'syllables', 'familiarity', 'no_homophones'] as const)(
    'tells that %s is set behind "more", and lets go of it with the others',
    (limit) => {
      const set = { ...plainFind, [limit]: 'true' }
      expect(limited(plainFind)).toBe(false)
      expect(limited(set)).toBe(true)
      expect(limited({ ...set, ...askedOf(noLimits) } as typeof plainFind)).toBe(false)
    },
  )
})
