import { asIn } from '../../ui/pair'
import { Link } from '@tanstack/react-router'
import { useState } from 'react'
import type { CardView, Me } from '../../api/client'
import { mayI, useWall } from '../../api/shared'
import { Letter, isGroup } from '../../ui/Letter'
import { Button, Field, Input, LinkButton, Notice } from '../../ui/parts'
import { PlayButton } from '../../ui/takes/PlayButton'
import { useMove, useSetState, useTalk, useWritten } from './api'
import { fieldOf, lacking, sections, type Desk, type Saving } from './model'
import { Versions } from './Versions'

type Props = { card: CardView; me: Me; desk: Desk; saving: Saving; inUse: boolean }

/** The card itself, where it stands and what became of it. */
export function Side({ card, me, desk, saving, inUse }: Props) {
  const written = useWritten(card.pair.grapheme)
  return (
    <aside className="flex flex-col gap-4 lg:sticky lg:top-4 lg:max-h-[calc(100vh-2rem)] lg:self-start lg:overflow-y-auto">
      <div className="rounded-lg border-2 border-ink bg-sheet p-3 shadow-md">
        <div className="flex items-center justify-center gap-2">
          <Letter
            drawn={card.pair.grapheme.includes('-') ? undefined : written.data}
            grapheme={card.pair.grapheme}
            group={isGroup(card.pair.grapheme)}
            className="h-32 min-w-0 flex-1"
          />
          {desk.draft.picture && (
            <img
              src={`/api/pictures/${desk.draft.picture}`}
              alt={desk.draft.picture_alt}
              className="h-28 max-w-[50%] rounded object-contain"
            />
          )}
        </div>
        <p className="text-center text-lg">
          {desk.draft.keyword || card.key_word ? (
            <>
              as in <b className="font-child">{desk.draft.keyword || card.key_word}</b>
            </>
          ) : (
            `/${card.pair.sound}/`
          )}
        </p>
        <p className="text-center text-sm text-soft">
          {card.kind}, step {card.step}
        </p>
      </div>
      <Contents gaps={card.gaps} />
      {card.take_id && (
        <PlayButton src={`/api/cards/${card.card_id}/sound?take=${card.take_id}`} label="Hear it" shortcut="h" />
      )}
      <SaveState saving={saving} readOnly={desk.readOnly && !inUse} />
      <StateButtons card={card} me={me} />
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
      <details>
        <summary className="min-h-11 content-center font-bold">Order, print, changes</summary>
        <div className="flex flex-col gap-3 pb-2">
          {mayI(me.rights, 'agree') && <Place key={card.step} card={card} />}
          <LinkButton href={`/api/cards.pdf?cards=${card.card_id}&layout=fold`} target="_blank">
            Print this card
          </LinkButton>
          <Versions cardId={card.card_id} readOnly={desk.readOnly} onRestore={desk.change} />
        </div>
      </details>
    </aside>
  )
}

/** Goes to a section, or to the field in it that fills a gap. */
function jump(section: string, part?: string) {
  const place = document.getElementById(`part-${section}`)
  place?.scrollIntoView({ block: 'start' })
  const field = part && fieldOf[part]
  const at = field ? place?.querySelector<HTMLElement>(`[data-field=${field}]`) : undefined
  const heading = place?.querySelector('h2')
  if (heading) heading.tabIndex = -1
  ;(at ?? heading)?.focus({ preventScroll: !at })
}

/** The sections, which of them are done, and what the others lack; each press goes there. */
function Contents({ gaps }: { gaps: CardView['gaps'] }) {
  return (
    <nav aria-label="Parts of this card">
      <ul className="flex flex-col max-lg:grid max-lg:grid-cols-2 max-lg:gap-x-4">
        {sections.map((s) => {
          const missing = lacking(s.parts, gaps)
          return (
            <li key={s.id} className="border-b border-line">
              <button
                type="button"
                onClick={() => jump(s.id)}
                className="flex min-h-11 w-full items-center gap-2 text-left font-bold hover:bg-marigold/20"
              >
                <span aria-hidden className={`w-5 text-center ${missing.length > 0 ? 'text-brick' : 'text-leaf'}`}>
                  {s.parts.length === 0 ? '·' : missing.length > 0 ? '○' : '✓'}
                </span>
                {s.title}
                {s.parts.length > 0 && missing.length === 0 && <span className="sr-only">, complete</span>}
              </button>
              {missing.length > 0 && (
                <span className="-mt-2 flex flex-wrap gap-x-3 pl-7">
                  {missing.map((g) => (
                    <button
                      key={g.part}
                      type="button"
                      aria-label={g.text}
                      onClick={() => jump(s.id, g.part)}
                      className="min-h-11 text-sm underline underline-offset-4 hover:bg-marigold/20"
                    >
                      {g.text.replace(/^needs (an? |the |four or more )?/, '')}
                    </button>
                  ))}
                </span>
              )}
            </li>
          )
        })}
      </ul>
    </nav>
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
      className="flex in-row gap-2"
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

function StateButtons({ card, me }: { card: CardView; me: Me }) {
  const set = useSetState(card.card_id)
  const talk = useTalk(card.card_id).data
  const open = talk?.remarks.filter((r) => r.parent_id === '' && !r.settled_at).length ?? 0
  const agreeing = me.conventions.agreeing === 'two' ? 'edit' : 'agree'
  return (
    <div className="flex flex-col gap-2">
      <p>
        This card is <b>{card.state}</b>
        {card.agreed_version > 0 && card.state !== 'agreed' && (
          <span className="text-sm"> · lessons use agreed version {card.agreed_version}</span>
        )}
      </p>
      {card.state === 'in review' && talk && talk.standing.need > 1 && (
        <p className="text-sm">
          {talk.standing.yes} of {talk.standing.need} said yes.
        </p>
      )}
      <Link
        to="/cards/$cardId/review"
        params={{ cardId: card.card_id }}
        className="inline-flex min-h-11 items-center justify-center rounded-lg border-2 border-ink/70 bg-sheet px-4 font-bold hover:bg-marigold/25"
      >
        {card.state === 'draft' && mayI(me.rights, 'edit') ? 'Put it forward' : 'Review and talk'}
        {open > 0 && `, ${open} open`}
      </Link>
      {card.state !== 'agreed' && mayI(me.rights, agreeing) && (
        <Button onClick={() => set.mutate('agreed')}>Agree this card ✓</Button>
      )}
      {set.error && <Notice kind="wrong">{set.error.message}</Notice>}
    </div>
  )
}
