import { asIn } from '../../ui/pair'
import { Link } from '@tanstack/react-router'
import { useState } from 'react'
import type { CardView, Me } from '../../api/client'
import { mayI, useWall } from '../../api/shared'
import { Letter, isGroup } from '../../ui/Letter'
import { Button, Field, Input, LinkButton, Notice } from '../../ui/parts'
import { PlayButton } from '../../ui/takes/PlayButton'
import { useMove, useSetState, useWritten } from './api'
import type { Desk, Saving } from './model'
import { Versions } from './Versions'

/** The card itself, where it stands and what became of it. */
export function Side({ card, me, desk, saving }: { card: CardView; me: Me; desk: Desk; saving: Saving }) {
  const written = useWritten(card.pair.grapheme)
  return (
    <aside className="flex flex-col gap-4 lg:sticky lg:top-4 lg:self-start">
      <div className="rounded-lg border-2 border-ink bg-sheet p-3 shadow-md">
        <Letter
          drawn={card.pair.grapheme.includes('-') ? undefined : written.data}
          grapheme={card.pair.grapheme}
          group={isGroup(card.kind)}
          className="mx-auto h-36"
        />
        <p className="text-center">
          {card.kind}, sound <b>/{card.pair.sound}/</b>
        </p>
        {(desk.draft.keyword || card.key_word) && (
          <p className="text-center text-sm text-soft">as in {desk.draft.keyword || card.key_word}</p>
        )}
      </div>
      {card.take_id && (
        <PlayButton src={`/api/cards/${card.card_id}/sound?take=${card.take_id}`} label="Hear it" shortcut="h" />
      )}
      <SaveState saving={saving} readOnly={desk.readOnly} />
      <StateButtons card={card} rights={me.rights} />
      {card.gaps.length > 0 && (
        <div className="text-sm">
          <p className="font-bold">Still missing</p>
          <ul className="list-disc pl-5">
            {card.gaps.map((g) => (
              <li key={g.part}>{g.text}</li>
            ))}
          </ul>
        </div>
      )}
      {mayI(me.rights, 'agree') ? (
        <Place key={card.step} card={card} />
      ) : (
        <p className="text-sm">Step {card.step} of the order</p>
      )}
      <nav aria-label="In the order" className="flex justify-between gap-2">
        {card.before ? (
          <Link
            to="/cards/$cardId"
            params={{ cardId: card.before }}
            className="flex min-h-11 items-center font-bold underline underline-offset-4"
          >
            ← before
          </Link>
        ) : (
          <span />
        )}
        {card.after && (
          <Link
            to="/cards/$cardId"
            params={{ cardId: card.after }}
            className="flex min-h-11 items-center font-bold underline underline-offset-4"
          >
            after →
          </Link>
        )}
      </nav>
      <OtherSounds card={card} />
      <Link
        to="/lessons"
        search={{ card: card.card_id }}
        className="inline-flex min-h-11 items-center justify-center rounded-lg bg-slate px-4 font-bold text-chalk"
      >
        Make a lesson
      </Link>
      <LinkButton href={`/api/cards.pdf?cards=${card.card_id}&layout=fold`} target="_blank">
        Print this card
      </LinkButton>
      <Versions cardId={card.card_id} readOnly={desk.readOnly} onRestore={desk.change} />
    </aside>
  )
}

/** The cards of the same spelling, and whether its sounds are taught at once. */
function OtherSounds({ card }: { card: CardView }) {
  const all = useWall().data?.filter((c) => c.pair.grapheme === card.pair.grapheme) ?? []
  const own = all.find((c) => c.card_id === card.card_id)
  if (all.length < 2) return null
  return (
    <div className="text-sm">
      <p className="font-bold">
        {card.pair.grapheme}: {all.length} sounds{own && own.along.length > 1 ? ', taught at once in this order' : ''}
      </p>
      <ul>
        {all.map((c) => (
          <li key={c.card_id}>
            <Link
              to="/cards/$cardId"
              params={{ cardId: c.card_id }}
              aria-current={c.card_id === card.card_id ? 'page' : undefined}
              className={`flex min-h-11 items-center underline-offset-4 ${c.card_id === card.card_id ? 'font-bold' : 'underline'}`}
            >
              {asIn(c)}
            </Link>
          </li>
        ))}
      </ul>
    </div>
  )
}

function Place({ card }: { card: CardView }) {
  const move = useMove(card.card_id)
  const [step, setStep] = useState(card.step)
  return (
    <form
      className="flex items-end gap-2"
      onSubmit={(e) => {
        e.preventDefault()
        move.mutate(step)
      }}
    >
      <div className="min-w-0 flex-1">
        <Field label="Step in the order" error={move.error?.message}>
          {(ids) => (
            <Input {...ids} type="number" min={1} value={step} onChange={(e) => setStep(e.target.valueAsNumber || 1)} />
          )}
        </Field>
      </div>
      {step !== card.step && (
        <Button type="submit" disabled={move.isPending}>
          Move
        </Button>
      )}
    </form>
  )
}

function SaveState({ saving, readOnly }: { saving: Saving; readOnly: boolean }) {
  if (readOnly) return <Notice>You may read this card and record takes; teachers change it.</Notice>
  const words = { saved: '✓ Saved', typing: '… Typing', saving: '↑ Saving', failed: '! Not saved' }[saving.kind]
  return (
    <div
      role="status"
      data-saving={saving.kind}
      className={`rounded-md px-3 py-2 font-bold ${saving.kind === 'failed' ? 'bg-coral/40 text-brick' : saving.kind === 'saved' ? 'bg-mint/40' : 'bg-marigold/30'}`}
    >
      {words}
      {saving.kind === 'failed' && <p className="text-sm font-normal">{saving.error.message}</p>}
    </div>
  )
}

function StateButtons({ card, rights }: { card: CardView; rights: Me['rights'] }) {
  const set = useSetState(card.card_id)
  if (!mayI(rights, 'edit')) return <p className="font-bold">This card is {card.state}.</p>
  return (
    <div className="flex flex-col gap-2">
      <p>
        This card is <b>{card.state}</b>
        {card.agreed_version > 0 && card.state !== 'agreed' && (
          <span className="text-sm"> · lessons use agreed version {card.agreed_version}</span>
        )}
      </p>
      {card.state === 'draft' && <Button onClick={() => set.mutate('in review')}>Ask for review</Button>}
      {card.state !== 'agreed' && mayI(rights, 'agree') && (
        <Button onClick={() => set.mutate('agreed')}>Agree this card ✓</Button>
      )}
      {card.state === 'in review' && <Button onClick={() => set.mutate('draft')}>Back to draft</Button>}
      {set.error && <Notice kind="wrong">{set.error.message}</Notice>}
    </div>
  )
}
