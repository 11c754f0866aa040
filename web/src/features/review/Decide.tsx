import { useState } from 'react'
import { callThen } from '../../api/shared'
import { useKept } from '../../api/useKept'
import { Button, Field, Notice, inputLook, Check } from '../../ui/parts'
import { usePutForward, useSay, type VoiceView } from './api'
import { ago, type Card } from './model'

/** What becomes of the card: put it forward, say yes, or send it back. */
export function Decide({ card }: { card: Card }) {
  const { view } = card
  if (view.state === 'agreed')
    return <Notice kind="good">This card is agreed: version {view.now.version} is in force.</Notice>
  return (
    <div className="flex flex-col gap-4">
      {view.open ? <Forward card={card} /> : card.mayEdit ? <PutForward card={card} /> : <p>This card is a draft.</p>}
      {view.findings.length > 0 && (
        <Notice kind="care">It cannot be agreed yet: {view.findings.map((f) => f.text).join(' ')}</Notice>
      )}
      {card.mayEdit && <Word card={card} />}
    </div>
  )
}

function Forward({ card }: { card: Card }) {
  const open = card.view.open
  if (!open) return null
  return (
    <div className="flex flex-col gap-1">
      <p>
        <b>{open.asked_by}</b> put it forward {ago(open.asked_at)}
        {open.readers.length > 0 && ` and asked ${open.readers.map((r) => r.name).join(', ')}`}.
      </p>
      {open.note && <p className="font-child text-lg">“{open.note}”</p>}
      <Voices list={open.voices} />
      {card.view.standing.need > 1 && (
        <p>
          <b>
            {card.view.standing.yes} of {card.view.standing.need}
          </b>{' '}
          said yes to what stands.
        </p>
      )}
    </div>
  )
}

export const Voices = ({ list }: { list: readonly VoiceView[] }) => (
  <ul>
    {list.map((v) => (
      <li key={v.member_id}>
        {v.yes ? '✓' : '↩'} <b>{v.name}</b> {v.yes ? 'said yes' : 'sent it back'}
        {!v.stands && <span className="text-soft"> (to version {v.version}; it was changed since)</span>}
        {v.note && <span className="font-child">: “{v.note}”</span>}
      </li>
    ))}
  </ul>
)

type NoteProps = { ids: object; kept: { value: { note: string }; set: (v: { note: string }) => void } }

const Note = ({ ids, kept }: NoteProps) => (
  <textarea
    {...ids}
    rows={2}
    maxLength={1000}
    value={kept.value.note}
    onChange={(e) => kept.set({ note: e.target.value })}
    className={inputLook}
  />
)

/** Asks for a review: whom, and what they should look at. */
function PutForward({ card }: { card: Card }) {
  const ask = usePutForward(card.id)
  const kept = useKept(`asked of ${card.id}`, { note: '' })
  const [readers, setReaders] = useState<string[]>([])
  return (
    <form
      className="flex flex-col gap-3"
      onSubmit={(e) => {
        e.preventDefault()
        callThen(ask, { note: kept.value.note, readers }, kept.settle)
      }}
    >
      <p>This card is a draft{card.view.before ? '; what is agreed stays in force meanwhile' : ''}.</p>
      <fieldset>
        <legend className="font-bold">Who should read it?</legend>
        {card.view.people.map((p) => (
          <Check
            key={p.member_id}
            className="rounded px-2 hover:bg-marigold/20"
            checked={readers.includes(p.member_id)}
            onChange={(e) =>
              setReaders(e.target.checked ? [...readers, p.member_id] : readers.filter((r) => r !== p.member_id))
            }
          >
            {p.name}
          </Check>
        ))}
      </fieldset>
      <Field label="What should they look at?" error={ask.error?.message}>
        {(ids) => <Note ids={ids} kept={kept} />}
      </Field>
      <Button type="submit" look="main" disabled={ask.isPending}>
        Put it forward
      </Button>
    </form>
  )
}

/** A reader's word. */
function Word({ card }: { card: Card }) {
  const { view, id } = card
  const say = useSay(id)
  const kept = useKept(`word on ${id}`, { note: '' })
  const give = (yes: boolean) => callThen(say, { version: view.now.version, yes, note: kept.value.note }, kept.settle)
  const mine = view.open?.voices.find((v) => v.member_id === card.me)
  const own = view.open?.asked_id === card.me
  if (!view.open && !view.may) return null
  return (
    <div className="flex flex-col gap-3 border-t-2 border-line pt-3">
      <Field label="A word with it" hint="It stays readable beside the card.">
        {(ids) => <Note ids={ids} kept={kept} />}
      </Field>
      <div className="flex flex-wrap gap-2">
        {view.may && !(mine?.yes && mine.stands) && (
          <Button look="main" disabled={say.isPending || view.findings.length > 0} onClick={() => give(true)}>
            ✓ {view.standing.need > view.standing.yes + 1 ? 'I say yes' : 'Agree it'}
          </Button>
        )}
        {view.open && (
          <Button disabled={say.isPending} onClick={() => give(false)}>
            ↩ {own ? 'Take it back' : 'Send it back'}
          </Button>
        )}
      </div>
      {!view.may && view.open && <p className="text-sm text-soft">In your team a lead agrees.</p>}
      {say.error && <Notice kind="wrong">{say.error.message}</Notice>}
    </div>
  )
}
