import { describe, expect, it } from 'vitest'
import { inAddress, listed, readAddress, unlisted } from './address'

const plain = { tab: 'find', text: '' }

describe('address', () => {
  it('says nothing of plain values and keeps those of others', () => {
    expect(readAddress(plain, { text: 7 })).toEqual({ tab: 'find', text: '7' })
    expect(inAddress(plain, { card: 'x' }, { tab: 'ear' })).toEqual({ card: 'x', tab: 'ear' })
    expect(inAddress(plain, { card: 'x', tab: 'ear' }, { tab: 'find' })).toEqual({ card: 'x' })
  })
  it('holds lists', () => {
    expect(unlisted(listed(['ship', 'shop']))).toEqual(['ship', 'shop'])
    expect(unlisted(listed([]))).toEqual([])
  })
})
