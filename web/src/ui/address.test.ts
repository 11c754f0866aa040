import { describe, expect, it } from 'vitest'
import { inAddress, readAddress, stillOnTheWay } from './address'

const plain = { tab: 'find', text: '' }

describe('address', () => {
  it('says nothing of plain values and keeps those of others', () => {
    expect(readAddress(plain, { text: 7 })).toEqual({ tab: 'find', text: '7' })
    expect(inAddress(plain, { card: 'x' }, { tab: 'ear' })).toEqual({ card: 'x', tab: 'ear' })
    expect(inAddress(plain, { card: 'x', tab: 'ear' }, { tab: 'find' })).toEqual({ card: 'x' })
  })
  it('keeps what was typed until the address has it', () => {
    const was = { tab: 'find', text: '' }
    const typed = { text: 'kay' }
    expect(stillOnTheWay(typed, was, { ...was, text: 'k' })).toEqual(typed)
    expect(stillOnTheWay(typed, { ...was, text: 'k' }, { ...was, text: 'kay' })).toEqual({})
    // A change that changed nothing is not left over for the day on which somebody goes back.
    expect(stillOnTheWay({ tab: 'find' }, was, { ...was, tab: 'ear' })).toEqual({})
  })
})
