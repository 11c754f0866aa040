import { useNavigate, useSearch } from '@tanstack/react-router'
import { useCallback, useState } from 'react'
import type { Me, Take } from '../../api/client'
import { mayI, useMe } from '../../api/shared'
import { Letter } from '../../ui/Letter'
import { Button, Failed, Key, Notice, Waiting } from '../../ui/parts'
import { useShelf } from '../../ui/takes/api'
import { Booth } from '../../ui/takes/Booth'
import { Tabbed } from '../../ui/Tabbed'
import { useAddress } from '../../ui/useAddress'
import { useKeys } from '../../ui/useKeys'
import { missing, nextMissing, type Shelf, type ShelfSound } from '../../ui/takes/model'
import { Guided } from './Guided'
import { Hearing } from './Hearing'
import { ShelfPanel } from './ShelfPanel'

const batchKeys = { n: 'the next sound that is missing', b: 'the one before' }
const plain = { tab: 'record' }

/** The booth: record one missing sound after the other, and hear how the library sounds as a whole. */
export function BoothPage() {
  const shelf = useShelf()
  const me = useMe()
  const [at, change] = useAddress(plain)
  if (shelf.error && !shelf.data) return <Failed error={shelf.error} />
  if (!shelf.data || !me.data) return <Waiting what="Opening the booth …" />
  const mayAgree = mayI(me.data.rights, 'agree')
  const record = (
    <>
      Record what is missing{' '}
      <span className="ml-1 rounded-full border-2 border-ink px-2 text-base">{missing(shelf.data).length}</span>
    </>
  )
  const sounds = <ShelfPanel shelf={shelf.data} mayWithdraw={mayAgree} />
  const hearing = { id: 'hearing', name: 'Listen blind', view: <Hearing mayExport={mayAgree} /> }
  return (
    <div className="mx-auto max-w-[1300px] p-5">
      <h1 className="sr-only">Booth</h1>
      <Tabbed
        label="What to do"
        at={at.tab}
        onTab={(tab) => change({ tab })}
        views={[
          { id: 'record', name: record, view: <Batch shelf={shelf.data} me={me.data} /> },
          { id: 'shelf', name: 'How the library sounds', view: sounds },
          ...(mayI(me.data.rights, 'choose') ? [hearing] : []),
        ]}
      />
    </div>
  )
}

function Batch({ shelf, me }: { shelf: Shelf; me: Me }) {
  const { card: chosen } = useSearch({ from: '/booth' })
  const navigate = useNavigate()
  const [moved, setMoved] = useState('')
  const [byLight, setByLight] = useState(false)
  const mayRecord = mayI(me.rights, 'record')
  const cards = shelf.cards
  const card = cards.find((c) => c.card_id === chosen) ?? missing(shelf)[0] ?? cards[0]
  const id = card?.card_id ?? ''
  const go = useCallback(
    (to: string | undefined) => to && void navigate({ to: '/booth', search: { card: to }, replace: true }),
    [navigate],
  )
  const onward = nextMissing(shelf, id)
  const onTakes = useCallback((takes: Take[]) => setMoved(takes.some((t) => t.chosen) ? id : ''), [id])
  const root = useKeys({ n: () => go(onward), b: () => go(nextMissing(shelf, id, -1)) }, { says: batchKeys })
  if (!card) return <Notice>There is no card yet. The library is where cards are made.</Notice>
  const left = missing(shelf)
  return (
    <div ref={root} className="grid gap-6 lg:grid-cols-[19rem_minmax(0,1fr)]">
      <div className="flex flex-col gap-4 lg:sticky lg:top-4 lg:self-start">
        <Cue card={card} />
        {!byLight && (
          <div className="flex gap-2">
            <Button disabled={!onward} onClick={() => go(nextMissing(shelf, id, -1))} className="flex-1">
              ← <Key>b</Key>
            </Button>
            <Button
              look={moved === id || card.take_id ? 'main' : 'plain'}
              disabled={!onward}
              onClick={() => go(onward)}
              className="flex-1"
            >
              Next <Key>n</Key>
            </Button>
          </div>
        )}
      </div>
      <div className="flex min-w-0 flex-col gap-4">
        {left.length === 0 ? (
          <Notice kind="good">Every card has its sound. Choose one below to record it again.</Notice>
        ) : (
          <Missing left={left} id={id} onCard={go} />
        )}
        {byLight ? (
          <Guided cards={cards} me={me} onCard={go} onClose={() => setByLight(false)} />
        ) : (
          <>
            {mayRecord && left.length > 1 && (
              <p>
                <Button onClick={() => setByLight(true)}>
                  <span aria-hidden className="size-4 rounded-full border-2 border-ink bg-marigold" /> All by the light,
                  one after the other
                </Button>
              </p>
            )}
            <Booth
              cardId={id}
              takeId={card.take_id ?? ''}
              speakerName={me.name}
              mayRecord={mayRecord}
              mayChoose={mayI(me.rights, 'choose')}
              onTakes={onTakes}
            />
          </>
        )}
      </div>
    </div>
  )
}

const fewShown = 12

/** The sounds that have no take, a row of them at first. */
function Missing({ left, id, onCard }: { left: ShelfSound[]; id: string; onCard: (id: string) => void }) {
  const [all, setAll] = useState(false)
  const at = Math.max(
    0,
    left.findIndex((c) => c.card_id === id),
  )
  const from = Math.min(at, Math.max(0, left.length - fewShown))
  return (
    <nav aria-label="Sounds still missing" className="flex flex-wrap items-center gap-2">
      <span className="font-bold">Still without a sound:</span>
      {(all ? left : left.slice(from, from + fewShown)).map((c) => (
        <button
          key={c.card_id}
          type="button"
          aria-current={c.card_id === id}
          onClick={() => onCard(c.card_id)}
          className="min-h-11 min-w-11 rounded-lg border-2 border-dashed border-ink/60 bg-sheet px-2 py-0.5 font-child text-xl leading-tight font-bold aria-[current=true]:border-solid aria-[current=true]:bg-marigold"
        >
          {c.pair.grapheme}
          <span className="block max-w-20 truncate text-sm font-normal text-ink">
            {c.key_word || `/${c.pair.sound}/`}
          </span>
        </button>
      ))}
      {left.length > fewShown && (
        <Button look="quiet" aria-expanded={all} onClick={() => setAll(!all)}>
          {all ? 'Fewer' : `All ${left.length}`}
        </Button>
      )}
    </nav>
  )
}

function Cue({ card }: { card: ShelfSound }) {
  return (
    <div className="rounded-lg border-2 border-ink bg-sheet p-4 shadow-md">
      <Letter
        drawn={card.drawn}
        grapheme={card.pair.grapheme}
        group={card.pair.grapheme.length > 1 && !card.pair.grapheme.includes('-')}
        className="mx-auto h-32"
      />
      <p className="text-center text-xl">
        {card.key_word ? (
          <>
            as in <b className="font-child">{card.key_word}</b>
          </>
        ) : (
          `/${card.pair.sound}/`
        )}
      </p>
      {card.mouth_cue ? (
        <p className="mt-3 text-xl leading-snug">{card.mouth_cue}</p>
      ) : (
        <p className="mt-3 text-soft">This card has no mouth cue yet.</p>
      )}
      {card.slip && <p className="mt-2 border-l-4 border-coral pl-3 text-lg">{card.slip}</p>}
      {card.contrast && (
        <p className="mt-2">
          Hand on the throat: then <b className="font-child text-xl">{card.contrast.grapheme}</b>,{' '}
          {card.contrast.voiced ? 'voice on' : 'voice off'}.
        </p>
      )}
    </div>
  )
}
