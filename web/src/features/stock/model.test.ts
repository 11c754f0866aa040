import { expect, it } from 'vitest'
import type { Book } from './api'
import { bookWhen, fromWhen, saidOtherwise } from './model'

it('says one part of a word otherwise', () => {
  const parts = [
    { grapheme: 'qu', sound: 'kw', others: ['k'] },
    { grapheme: 'ay', sound: 'eɪ', others: [] },
  ]
  expect(saidOtherwise(parts, 0, 'k')).toBe('keɪ')
})

it('says from when a book can be read', () => {
  const book = (ready: number, from: string) => ({ pages: [{}, {}], ready, from }) as unknown as Book
  expect(bookWhen(book(2, ''))).toBe('can be read today')
  expect(bookWhen(book(1, ''))).toBe('not within the plan')
  expect(bookWhen(book(1, '2026-11-30'))).toMatch(/30/)
  expect(fromWhen(false, '')).toBe('not within the plan')
})
