import { describe, expect, it } from 'vitest'
import type { WallCard } from '../../api/client'
import { hits, type Sources } from './model'

const card = (grapheme: string, as_in: string, step: number) =>
  ({ card_id: `c${step}`, pair: { grapheme, sound: 'x' }, as_in, step, state: 'agreed', rhyme: '' }) as WallCard
const from: Sources = {
  cards: [card('a', 'axle', 1), card('sh', 'shed', 20), card('s', 'soup', 4), card('ai', 'sail', 30)],
  lessons: [
    { lesson_id: 'l1', grapheme: 'sh', class_name: 'Heron class', purpose: 'introduce', minutes: 20 },
  ] as unknown as Sources['lessons'],
  classes: [{ class_id: 'k1', name: 'Heron class', kind: 'class', taught: 14 }] as unknown as Sources['classes'],
  texts: [{ text_id: 't1', kind: 'sentence', body: 'The ship is in the lock.' }],
}
const titles = (text: string) => hits(text, from).map((h) => `${h.group}: ${h.title}`)

describe('the search', () => {
  it('shows the pages where nothing was typed', () => {
    expect(hits(' ', from).every((h) => h.group === 'Pages')).toBe(true)
  })
  it('puts the very grapheme first, and finds by its word', () => {
    expect(titles('s')[0]).toBe('Cards: s')
    expect(titles('sh').slice(0, 2)).toEqual(['Cards: sh', 'Lessons: sh'])
    expect(titles('sail')[0]).toBe('Cards: ai')
  })
  it('finds classes, texts and pages, and offers to look a word up', () => {
    expect(titles('heron')).toEqual(['Lessons: sh', 'Classes: Heron class', 'Words: heron'])
    expect(titles('ship')).toContain('Texts: The ship is in the lock.')
    expect(hits('password', from)[0]).toMatchObject({ title: 'People', to: '/team', search: { tab: 'people' } })
    expect(titles('???')).toEqual([])
  })
})
