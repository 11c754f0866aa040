import { useState, type ReactNode } from 'react'
import type { Bit, Schemas } from '../../api/client'
import { Bridges } from '../../ui/Bridges'
import { Button, Inline, Input, Notice } from '../../ui/parts'
import { useAddress } from '../../ui/useAddress'
import { usePlay } from './api'
import { games, oneOf, type Game } from './model'
import { SoundPick } from './parts'
import { useTray } from './useTray'

type Item = Schemas['PlayWord']

const plain = { play: 'chain' }

const says: Record<Game, { name: string; how: string }> = {
  chain: {
    name: 'A chain',
    how: 'One sound changes at a time: first at the start, so that the words rhyme, then at the end, then the vowel. Children change one letter card.',
  },
  slips: {
    name: 'A slip hunt',
    how: 'Each word is written with one slip. Children say the word, count its sounds and mend it.',
  },
  compounds: { name: 'Two words in one', how: 'Cover one half, read; cover the other, read; then both.' },
  rings: {
    name: 'Find and ring',
    how: 'Children ring the letters of the sound. It stands at different places, and in some words not at all.',
  },
}

export function WordPlay({ classId, next, pick }: { classId: string; next: string; pick: ReactNode }) {
  const tray = useTray()
  const [at, change] = useAddress(plain)
  const game = oneOf(games, at.play)
  const [card, setCard] = useState(next)
  const [seed, setSeed] = useState(1)
  const [start, setStart] = useState('')
  const [begun, setBegun] = useState('')
  const play = usePlay(game, classId, game === 'compounds' ? '' : card, game === 'chain' ? begun : '', seed)
  const items = play.error ? [] : (play.data ?? [])
  return (
    <div className="flex flex-col gap-4">
      <p className="flex flex-wrap items-center gap-2 text-xl">
        <Inline aria-label="Word game" value={game} onChange={(e) => change({ play: e.target.value })}>
          {Object.entries(says).map(([id, g]) => (
            <option key={id} value={id}>
              {g.name}
            </option>
          ))}
        </Inline>
        {game !== 'compounds' && (
          <>
            <span>with</span>
            <SoundPick value={card} onChange={setCard} {...(game === 'rings' ? {} : { none: 'any taught sound' })} />
          </>
        )}
        <span>that</span>
        {pick}
        <span>can read</span>
        {game !== 'compounds' && <Button onClick={() => setSeed(seed + 1)}>Another</Button>}
        {items.length > 0 && <Button onClick={() => tray.add(items.map((i) => i.word))}>Pick all</Button>}
      </p>
      {game === 'chain' && (
        <form
          className="flex items-center gap-2 text-lg"
          onSubmit={(e) => {
            e.preventDefault()
            setBegun(start.trim())
          }}
        >
          <label className="flex items-center gap-2">
            starting with
            <Input
              value={start}
              maxLength={24}
              placeholder="any word"
              onChange={(e) => setStart(e.target.value)}
              className="max-w-40 font-child text-xl!"
            />
          </label>
          <Button type="submit">Begin</Button>
        </form>
      )}
      <p className="text-soft">{says[game].how}</p>
      {play.error && <Notice kind="wrong">{play.error.message}</Notice>}
      <ol className="flex flex-wrap items-start gap-3">
        {items.map((item, i) => (
          <li key={item.word}>
            <PlayCard item={item} game={game} number={i + 1} />
          </li>
        ))}
      </ol>
    </div>
  )
}

function PlayCard({ item, game, number }: { item: Item; game: Game; number: number }) {
  const tray = useTray()
  const picked = tray.words.includes(item.word)
  const mark = item.mark
  const bits: Bit[] = item.bits.map((b) => ({
    letters: b.letters,
    grapheme: b.grapheme,
    sound: b.sound,
    ...(b.odd ? { odd: true } : {}),
    ...(mark.length > 0 && b.letters.every((l) => mark.includes(l)) ? { target: true } : {}),
  }))
  return (
    <button
      type="button"
      aria-pressed={picked}
      onClick={() => tray.toggle(item.word)}
      title={picked ? 'picked: press to put back' : 'press to pick'}
      className={`flex w-52 flex-col items-center gap-1 rounded-xl border-2 border-ink px-3 py-2 text-center hover:bg-marigold/25 ${picked ? 'bg-marigold/50' : 'bg-sheet'}`}
    >
      <span className="self-start text-sm text-soft">{number}</span>
      {game === 'slips' ? (
        <>
          <span className="font-child text-4xl">{item.shown}</span>
          <span className="text-xl">
            → <Bridges word={item.word} bits={bits} />
          </span>
        </>
      ) : game === 'rings' ? (
        <Ringed word={item.word} mark={mark} />
      ) : (
        <span className="text-4xl">
          <Bridges word={item.word} bits={bits} />
        </span>
      )}
      {item.picture && <img src={`/api/word-pictures/${item.word}`} alt="" className="size-12" />}
      <span className="text-sm">{item.says}</span>
    </button>
  )
}

/** A word with a ring round the letters to be found. */
function Ringed({ word, mark }: { word: string; mark: readonly number[] }) {
  const cut =
    mark.length === 0 || mark.at(-1)! - mark[0]! + 1 > mark.length
      ? mark.map((m) => [m, m] as const)
      : [[mark[0]!, mark.at(-1)!] as const]
  const parts: ReactNode[] = []
  let at = 0
  for (const [from, to] of cut) {
    parts.push(word.slice(at, from))
    parts.push(
      <span key={from} className="rounded-full border-3 border-brick px-1">
        {word.slice(from, to + 1)}
      </span>,
    )
    at = to + 1
  }
  return (
    <span className="py-2 font-child text-4xl">
      {parts}
      {word.slice(at)}
    </span>
  )
}
