import { asIn } from '../../ui/pair'
import { useState, type ReactNode } from 'react'
import { useClass, useWall } from '../../api/shared'
import { Button, Inline, Notice } from '../../ui/parts'
import { SendTo } from '../../ui/SendTo'
import { useAddress } from '../../ui/useAddress'
import { oneOf } from './model'
import { OwnPictures } from './OwnPictures'
import { useContrast, useQuarters, useSort } from './api'
import { SoundPick, WordChip } from './parts'

const kinds = ['sort', 'quarters', 'contrast'] as const
const plain = { game: 'sort' }

export function EarGames({ classId, className, pick }: { classId: string; className: string; pick: ReactNode }) {
  const [at, change] = useAddress(plain)
  const kind = oneOf(kinds, at.game)
  const choose = (
    <Inline aria-label="Game" value={kind} onChange={(e) => change({ game: e.target.value })}>
      <option value="sort">Sort pictures</option>
      <option value="quarters">First or last</option>
      <option value="contrast">This or that word</option>
    </Inline>
  )
  if (kind === 'quarters') return <Quarters classId={classId} choose={choose} />
  if (kind === 'contrast') return <Contrast classId={classId} choose={choose} pick={pick} />
  return <Sorter classId={classId} className={className} choose={choose} />
}

const credit = (
  <p className="text-sm text-soft">
    Pictures: Fluent emoji by Microsoft (MIT), game-icons.net (CC BY 3.0), and our own.
  </p>
)

function useOffered(classId: string) {
  const klass = useClass(classId)
  const known = klass.data?.cards.find((c) => c.pair.grapheme === 's' || c.pair.grapheme === 'm')?.card_id
  return [klass.data?.next ?? '', known ?? ''].filter(Boolean)
}

function Sorter({ classId, className, choose }: { classId: string; className: string; choose: ReactNode }) {
  const wall = useWall()
  const offered = useOffered(classId)
  const [own, setOwn] = useState<string[]>()
  const [per, setPer] = useState(4)
  const [position, setPosition] = useState<'any' | 'initial' | 'medial' | 'final'>('any')
  const [seed, setSeed] = useState(1)
  const cards = own ?? offered
  const sort = useSort(cards, per, position, seed)
  const set = (i: number, id: string) =>
    setOwn(id ? cards.map((c, k) => (k === i ? id : c)) : cards.filter((_, k) => k !== i))
  return (
    <div className="flex flex-col gap-5">
      <p className="flex flex-wrap items-center gap-2 text-xl">
        {choose}
        <Inline aria-label="Pictures for each sound" value={per} onChange={(e) => setPer(Number(e.target.value))}>
          {[2, 3, 4, 5].map((n) => (
            <option key={n} value={n}>
              {n} pictures each
            </option>
          ))}
        </Inline>
        <Inline aria-label="Place" value={position} onChange={(e) => setPosition(e.target.value as typeof position)}>
          <option value="any">with, wherever it is heard best,</option>
          <option value="initial">that start with</option>
          <option value="final">that end with</option>
          <option value="medial">that have in the middle</option>
        </Inline>
        {cards.map((id, i) => (
          <SoundPick
            key={`${i}-${id}`}
            label={`Sound ${i + 1}`}
            value={id}
            onChange={(next) => set(i, next)}
            {...(cards.length > 2 ? { none: '(leave out)' } : {})}
          />
        ))}
        {cards.length < 7 && (
          <Button onClick={() => setOwn([...cards, wall.data?.find((c) => !cards.includes(c.card_id))?.card_id ?? ''])}>
            + one more
          </Button>
        )}
        <Button onClick={() => setSeed(seed + 1)}>Others</Button>
      </p>
      {sort.error && <Notice kind="wrong">{sort.error.message}</Notice>}
      <div className="flex flex-wrap gap-6">
        {!sort.error &&
          sort.data?.map((b, i) => (
            <section
              key={b.sound}
              aria-label={`Basket ${i + 1}`}
              className="min-w-64 flex-1 rounded-xl border-2 border-ink bg-sheet p-4"
            >
              <h2 className="font-child text-5xl">{wall.data?.find((c) => c.card_id === cards[i])?.pair.grapheme}</h2>
              <p className="text-sm text-soft">
                {
                  { initial: 'at the start', medial: 'in the middle', final: 'at the end', any: 'somewhere' }[
                    b.position as 'any'
                  ]
                }
              </p>
              {b.note && <p className="mt-1 text-sm font-bold">! {b.note}</p>}
              <ul className="mt-3 grid grid-cols-2 gap-3">
                {b.pictures.map((p) => (
                  <li key={p} className="flex flex-col items-center rounded-lg border border-line bg-paper p-2">
                    <img src={`/api/word-pictures/${p}`} alt="" className="size-24" />
                    <span className="text-lg">{p}</span>
                  </li>
                ))}
              </ul>
            </section>
          ))}
      </div>
      {sort.data && !sort.error && (
        <SendTo classId={classId} className={className} values={sort.data.flatMap((b) => b.pictures)} kind="picture" />
      )}
      <p className="text-sm text-soft">
        Equal numbers. No picture has two of the sounds, in its name or in another name that children give it.
      </p>
      {credit}
      <OwnPictures />
    </div>
  )
}

function Quarters({ classId, choose }: { classId: string; choose: ReactNode }) {
  const klass = useClass(classId)
  const [own, setOwn] = useState<string>()
  const [seed, setSeed] = useState(1)
  const [shown, setShown] = useState(false)
  const card = own ?? klass.data?.next ?? ''
  const quarters = useQuarters(card, seed)
  return (
    <div className="flex flex-col gap-5">
      <p className="flex flex-wrap items-center gap-2 text-xl">
        {choose}: where is
        <SoundPick value={card} onChange={setOwn} />
        <span>in the name?</span>
        <Button onClick={() => setSeed(seed + 1)}>Others</Button>
        <Button aria-pressed={shown} onClick={() => setShown(!shown)}>
          {shown ? 'Hide the answers' : 'Show the answers'}
        </Button>
      </p>
      {quarters.error && <Notice kind="wrong">{quarters.error.message}</Notice>}
      {!quarters.error && (
        <ul className="grid max-w-3xl grid-cols-2 border-4 border-ink bg-sheet">
          {quarters.data?.map((q) => (
            <li key={q.picture} className="flex flex-col items-center gap-1 border-2 border-ink p-4">
              <img src={`/api/word-pictures/${q.picture}`} alt="" className="size-36" />
              <span className="font-child text-2xl">{q.picture}</span>
              <span className="min-h-7 text-lg font-bold">
                {shown ? (q.answer === 'initial' ? '● ○ first' : '○ ● last') : ''}
              </span>
            </li>
          ))}
        </ul>
      )}
      {credit}
    </div>
  )
}

function Contrast({ classId, choose, pick }: { classId: string; choose: ReactNode; pick: ReactNode }) {
  const offered = useOffered(classId)
  const wall = useWall()
  const [left, setLeft] = useState(offered[0] ?? '')
  const [right, setRight] = useState(() => {
    const cards = wall.data ?? []
    const own = cards.find((c) => c.card_id === offered[0])
    return (
      cards.find((c) => c.card_id !== offered[0] && c.pair.grapheme === own?.pair.grapheme)?.card_id ?? offered[1] ?? ''
    )
  })
  const sets = useContrast(classId, left, right)
  const name = (id: string) => wall.data?.find((c) => c.card_id === id)
  return (
    <div className="flex flex-col gap-5">
      <p className="flex flex-wrap items-center gap-2 text-xl">
        {choose}: words with
        <SoundPick label="One sound" value={left} onChange={setLeft} />
        <span>or</span>
        <SoundPick label="The other sound" value={right} onChange={setRight} />
        <span>that</span> {pick} <span>can read</span>
      </p>
      {sets.error && <Notice kind="wrong">{sets.error.message}</Notice>}
      {sets.data && !sets.error && (
        <>
          <div className="grid gap-6 md:grid-cols-2">
            {(
              [
                [left, sets.data.left],
                [right, sets.data.right],
              ] as const
            ).map(([id, words]) => (
              <section key={id} className="rounded-xl border-2 border-ink bg-sheet p-4">
                <h2 className="font-child text-4xl">
                  {name(id)?.pair.grapheme} <span className="text-lg text-soft">{asInOf(name(id))}</span>
                </h2>
                <ul className="mt-3 flex flex-wrap gap-2">
                  {words.map((w) => (
                    <li key={w.word}>
                      <WordChip word={w} />
                    </li>
                  ))}
                </ul>
              </section>
            ))}
          </div>
          {sets.data.twins.length > 0 && (
            <p className="text-xl">
              Only this sound differs:{' '}
              <span className="font-child">{sets.data.twins.map((t) => t.join(' – ')).join(', ')}</span>
            </p>
          )}
          <p className="text-sm text-soft">Equal numbers; no word holds both sounds.</p>
        </>
      )}
    </div>
  )
}

const asInOf = (c: Parameters<typeof asIn>[0] | undefined) => (c ? asIn(c) : '')
