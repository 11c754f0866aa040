import { expect, it } from 'vitest'
import type { BundleView, CardLine, TableLine, TableView } from './api'
import { choiceOf, firstPicks, forAll, offered, sorted, sumOf, withColumn } from './model'

const line = (id: string, standing: CardLine['standing'], fills = 0): CardLine =>
  ({ id, standing, fills, version: 3, fields: [] }) as unknown as CardLine
const cards = [line('same', 'same'), line('new', 'new'), line('diff', 'different', 2), line('full', 'different')]
const view = {
  cards,
  letters: [{ name: 'n', standing: 'different' }],
  pictures: [
    { name: 'heron', standing: 'new' },
    { name: 'eel', standing: 'different' },
  ],
  texts: [
    { name: 'A.', standing: 'new' },
    { name: 'B.', standing: 'same' },
  ],
  routines: [{ name: 'introduce', standing: 'different' }],
} as unknown as BundleView

it('takes what is new and changes nothing of ours unless asked', () => {
  const first = choiceOf(view, firstPicks, true)
  expect(first.cards).toEqual([{ id: 'new', how: 'add', version: 3 }])
  expect([first.voices, first.conventions, first.letters]).toEqual([false, false, []])
  expect(first.pictures).toEqual(['heron'])
  expect(sumOf(view, first)).toBe('1 new card, 1 text, 1 picture')
})

it('takes cards the same way all at once', () => {
  const of = (way: Parameters<typeof forAll>[1]) =>
    choiceOf(view, { ...firstPicks, how: forAll(cards, way) }, true).cards.map((c) => `${c.id} ${c.how}`)
  expect(of('gaps')).toEqual(['new add', 'diff fill'])
  expect(of('theirs')).toEqual(['new add', 'diff take', 'full take'])
  expect(of('none')).toEqual([])
})

it('asks only a lead’s choices for a lead', () => {
  const picks = { ...firstPicks, routines: true, conventions: true, asAgreed: true }
  expect(choiceOf(view, picks, true).routines).toEqual(['introduce'])
  const teacher = choiceOf(view, picks, false)
  expect([teacher.routines, teacher.conventions, teacher.as_agreed]).toEqual([[], false, false])
})

it('puts what needs a decision first', () => {
  expect(sorted(cards).map((c) => c.id)).toEqual(['diff', 'full', 'new', 'same'])
})

it('offers the lines of a table that need no second look', () => {
  const lines = [
    { row: 2, standing: 'new', doubt: false },
    { row: 3, standing: 'new', doubt: true },
    { row: 4, standing: 'different', doubt: false },
    { row: 5, standing: 'same', doubt: false },
  ] as TableLine[]
  expect(offered(lines)).toEqual([2])
})

it('gives a column one meaning', () => {
  const table = { columns: { word: 0, grapheme: 1 } } as unknown as TableView
  expect(withColumn(table, 'sound', 1)).toEqual({ word: 0, sound: 1 })
  expect(withColumn(table, 'grapheme', -1)).toEqual({ word: 0 })
})
