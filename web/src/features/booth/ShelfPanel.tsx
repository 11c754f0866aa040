import { Link } from '@tanstack/react-router'
import { useState } from 'react'
import { Button, Heading, Notice } from '../../ui/parts'
import { cardSound, useWithdrawVoice } from '../../ui/takes/api'
import { verdictWords, type Shelf, type ShelfSound, type Verdict } from '../../ui/takes/model'
import { playInTurn } from '../../ui/takes/play'
import { Renew } from './Renew'

/** How alike the agreed takes sound, what to record again first, and whose voices they are. */
export function ShelfPanel({ shelf, mayWithdraw }: { shelf: Shelf; mayWithdraw: boolean }) {
  const cards = shelf.cards
  const kept = cards.filter((c) => c.take_id)
  const even = shelf.evenness
  const again = even.again ?? []
  const of = (id: string) => cards.find((c) => c.card_id === id)
  if (kept.length === 0) return <Notice>No card has a sound yet. Record the first one beside this tab.</Notice>
  return (
    <div className="flex flex-col gap-7">
      <section className="flex flex-col gap-3">
        <Heading level={2}>One after the other</Heading>
        <p className="text-lg">
          {kept.length} of {cards.length} cards have a sound. From the softest to the loudest it is{' '}
          <b>{even.loudness_spread.toFixed(1)} LU</b>
          {even.loudness_spread > 2 ? ', a step that is heard' : ', too little to be heard as a step'}; from the
          quietest room to the noisiest <b>{even.noise_spread.toFixed(0)} dB</b>.
        </p>
        <LevelStrip cards={kept} usual={even.loudness_lufs} />
        <div className="flex flex-wrap items-center gap-3">
          <Button look="main" onClick={() => void playInTurn(...kept.map((c) => cardSound(c.card_id, c.take_id)))}>
            <span aria-hidden>▶</span> Play them all in turn
          </Button>
          <Button onClick={() => void playInTurn()}>Stop</Button>
        </div>
      </section>
      <section className="flex flex-col gap-3">
        <Heading level={2}>Record again first</Heading>
        {again.length === 0 ? (
          <Notice kind="good">Nothing: every agreed take is clean and as loud as the others.</Notice>
        ) : (
          <ol className="flex flex-col gap-2">
            {again.map((a) => (
              <li
                key={a.card_id}
                className="flex flex-wrap items-center gap-3 rounded-lg border-2 border-line bg-sheet px-3 py-2"
              >
                <b className="min-w-12 font-child text-3xl">{of(a.card_id)?.pair.grapheme}</b>
                <span className="min-w-0 flex-1">{a.why}</span>
                <Link
                  to="/booth"
                  search={{ card: a.card_id }}
                  className="inline-flex min-h-11 items-center rounded-lg border-2 border-ink/70 px-4 font-bold hover:bg-marigold/25"
                >
                  Record it
                </Link>
              </li>
            ))}
          </ol>
        )}
      </section>
      {mayWithdraw && <Renew />}
      <section className="flex flex-col gap-3">
        <Heading level={2}>Voices</Heading>
        {(even.voices ?? []).map((v) => (
          <Voice key={v.speaker} speaker={v.speaker} takes={v.takes} mayWithdraw={mayWithdraw} />
        ))}
      </section>
    </div>
  )
}

/** A bar a sound around the usual loudness, with its verdict; a click plays it. */
function LevelStrip({ cards, usual }: { cards: ShelfSound[]; usual: number }) {
  const half = 6 // LU to either side
  return (
    <ul className="flex flex-wrap gap-1">
      {cards.map((c) => {
        const off = (c.level_lufs ?? 0) - usual
        const at = 50 - (Math.max(-half, Math.min(half, off)) / half) * 50
        const v = verdictWords[c.verdict as Verdict]
        return (
          <li key={c.card_id}>
            <button
              type="button"
              title={`${c.level_lufs?.toFixed(1)} LUFS, signal to noise ${c.snr_db?.toFixed(0)} dB, ${c.speaker}: ${v.text}`}
              onClick={() => void playInTurn(cardSound(c.card_id, c.take_id))}
              className="flex w-14 flex-col items-center rounded-lg border-2 border-line bg-sheet pb-1 hover:border-ink"
            >
              <span className="font-child text-2xl font-bold">{c.pair.grapheme}</span>
              <span aria-hidden className="relative h-14 w-8 rounded bg-paper">
                <span className="absolute inset-x-0 top-1/2 border-t-2 border-dashed border-ink/40" />
                <span
                  className={`absolute inset-x-1 h-1.5 -translate-y-1/2 rounded ${Math.abs(off) > 2 ? 'bg-brick' : 'bg-leaf'}`}
                  style={{ top: `${at}%` }}
                />
              </span>
              <span className="text-sm">
                <span aria-hidden>{v.mark}</span> {off > 0.05 ? '+' : off < -0.05 ? '−' : '±'}
                {Math.abs(off).toFixed(1)}
              </span>
            </button>
          </li>
        )
      })}
    </ul>
  )
}

function Voice({ speaker, takes, mayWithdraw }: { speaker: string; takes: number; mayWithdraw: boolean }) {
  const withdraw = useWithdrawVoice()
  const [sure, setSure] = useState(false)
  const gone = withdraw.data
  return (
    <div className="flex flex-col gap-2 rounded-lg border-2 border-line bg-sheet px-3 py-2">
      <div className="flex flex-wrap items-center gap-3">
        <b className="text-lg">{speaker}</b>
        <span className="flex-1">
          {takes} {takes === 1 ? 'card plays' : 'cards play'} this voice
        </span>
        {mayWithdraw && !sure && (
          <Button look="quiet" onClick={() => setSure(true)}>
            Withdraw this voice
          </Button>
        )}
        {sure && !gone && (
          <>
            <span>
              All takes by {speaker} are removed for good, and {takes} {takes === 1 ? 'card is' : 'cards are'} left
              without a sound.
            </span>
            <Button look="danger" disabled={withdraw.isPending} onClick={() => withdraw.mutate(speaker)}>
              Yes, remove them
            </Button>
            <Button look="quiet" onClick={() => setSure(false)}>
              No
            </Button>
          </>
        )}
      </div>
      {withdraw.error && <Notice kind="wrong">{withdraw.error.message}</Notice>}
      {gone && (
        <Notice kind="care">
          {gone.takes} takes are gone. Now without a sound:{' '}
          {gone.missing.map((p) => p.grapheme).join(', ') || 'no card'}. Packs and lessons made from now on play none of
          them; throw away packs that were made before.
        </Notice>
      )}
    </div>
  )
}
