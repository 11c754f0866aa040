import { expect, test } from 'vitest'
import { kindOf, lines } from './model'

test('one sentence is a sentence, more are a page', () => {
  expect(kindOf({ sentences: [{ start: 0, words: 3, decodable: 1 }] })).toBe('sentence')
  expect(
    kindOf({
      sentences: [
        { start: 0, words: 3, decodable: 1 },
        { start: 12, words: 2, decodable: 1 },
      ],
    }),
  ).toBe('page')
  expect(kindOf({ sentences: [] })).toBe('sentence')
})

test('each sentence stands on its own line, and no word is lost', () => {
  const words = [0, 4, 8, 12, 15].map((start) => ({ start }))
  const cut = lines(words, [{ start: 0 }, { start: 12 }])
  expect(cut.map((l) => l.map((w) => w.start))).toEqual([
    [0, 4, 8],
    [12, 15],
  ])
  expect(cut.flat()).toEqual(words)
})
