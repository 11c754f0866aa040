import { useState, type ReactNode } from 'react'
import { fieldName } from '../../ui/fields'
import { Button } from '../../ui/parts'
import { PlayButton } from '../../ui/takes/PlayButton'
import { Writing } from '../../ui/Writing'
import type { Face } from './api'
import { pieces, threadsOf, wordingOf, type Card } from './model'
import { SayForm } from './SayForm'
import { Thread } from './Thread'

/** One part of a card: as it is agreed, as it is now, and what is said of it. */
export function Part({ card, field }: { card: Card; field: string }) {
  const [saying, setSaying] = useState(false)
  const threads = threadsOf(card.view.remarks, field)
  const name = fieldName(field)
  return (
    <section aria-label={name} id={`part-${field}`} className="flex flex-col gap-1 border-b-2 border-line pb-3">
      <div className="flex flex-wrap items-baseline gap-x-4">
        <h2 className="text-lg font-bold first-letter:uppercase">{name}</h2>
        {!saying && (
          <Button look="quiet" onClick={() => setSaying(true)}>
            Say something
          </Button>
        )}
      </div>
      {field !== '' && <Faces card={card} field={field} />}
      {threads.map((t) => (
        <Thread key={t.first.remark_id} card={card} first={t.first} answers={t.answers} />
      ))}
      {saying && <SayForm card={card} field={field} onClose={() => setSaying(false)} />}
    </section>
  )
}

/** The part as it is agreed beside how it is now, or once where nothing changed. */
function Faces({ card, field }: { card: Card; field: string }) {
  const { before, now, changed } = card.view
  if (!changed.includes(field) || !before)
    return (
      <div className="max-w-3xl">
        <Shown card={card.id} face={now} field={field} />
      </div>
    )
  return (
    <div className="grid gap-3 sm:grid-cols-2">
      <Side label={`agreed, version ${before.version}`}>
        <Shown card={card.id} face={before} field={field} against={now} kind="gone" />
      </Side>
      <Side label="now" strong>
        <Shown card={card.id} face={now} field={field} against={before} kind="new" />
      </Side>
    </div>
  )
}

function Side({ label, strong = false, children }: { label: string; strong?: boolean; children: ReactNode }) {
  return (
    <div className={`rounded-lg border-2 bg-sheet p-3 ${strong ? 'border-ink' : 'border-dashed border-edge'}`}>
      <p className="text-sm font-bold text-soft">{label}</p>
      {children}
    </div>
  )
}

type ShownProps = { card: string; face: Face; field: string; against?: Face; kind?: 'gone' | 'new' }

function Shown({ card, face, field, against, kind }: ShownProps) {
  if (field === 'picture')
    return face.content.picture ? (
      <img
        src={`/api/pictures/${face.content.picture}`}
        alt={face.content.picture_alt}
        className="h-44 max-w-full object-contain"
      />
    ) : (
      <None />
    )
  if (field === 'take')
    return face.take_id ? (
      <PlayButton
        src={`/api/cards/${card}/sound?take=${face.take_id}`}
        label={kind === 'gone' ? 'Hear it as it was' : 'Hear it'}
      />
    ) : (
      <None text={kind === 'gone' ? 'it was withdrawn, or none was chosen' : 'none'} />
    )
  if (field === 'letter')
    return face.drawn ? (
      <Writing
        written={face.drawn}
        {...(kind === 'new' && against?.drawn ? { under: against.drawn } : {})}
        className="h-40 max-w-full"
      />
    ) : (
      <None text="not drawn" />
    )
  if (field === 'place') return <p>The letter lies otherwise over the picture.</p>
  const text = wordingOf(face.content, field)
  if (!against || !kind) return text ? <p className="font-child text-lg whitespace-pre-line">{text}</p> : <None />
  const other = wordingOf(against.content, field)
  const shown = kind === 'new' ? pieces(other, text) : pieces(text, other)
  return text ? (
    <p className="font-child text-xl whitespace-pre-line">
      {shown
        .filter((p) => p.kind === 'same' || p.kind === kind)
        .map((p, i) =>
          p.kind === 'same' ? (
            <span key={i}>{p.text}</span>
          ) : kind === 'new' ? (
            <ins key={i} className="rounded bg-mint/60 font-bold decoration-2 underline-offset-4">
              {p.text}
            </ins>
          ) : (
            <del key={i} className="rounded bg-coral/30 decoration-2">
              {p.text}
            </del>
          ),
        )}
    </p>
  ) : (
    <None />
  )
}

const None = ({ text = 'nothing' }: { text?: string }) => <p className="text-soft italic">{text}</p>
