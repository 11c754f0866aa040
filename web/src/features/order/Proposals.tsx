import { useState } from 'react'
import { callThen } from '../../api/shared'
import { Button, Input, Notice } from '../../ui/parts'
import { offerUndo } from '../../ui/undo'
import { decide, propose, useDecide, usePropose, type Proposal } from './api'

/** After an order was agreed: a way back to the one that stood. */
const offerBack = (former: string[]) =>
  offerUndo('The order is agreed', async () => {
    const { id } = await propose(former, 'taken back')
    await decide(id, true)
  })

type FormProps = { ids: string[]; standing: string[]; lead: boolean; onDone: () => void }

/** Proposes the order as a whole; a lead may agree it at once. */
export function ProposeForm({ ids, standing, lead, onDone }: FormProps) {
  const [note, setNote] = useState('')
  const send = usePropose()
  const settle = useDecide()
  const error = send.error ?? settle.error
  const go = (agree: boolean) =>
    callThen(send, { order: ids, note }, ({ id }) => {
      if (!agree) {
        onDone()
        return
      }
      callThen(settle, { id, agree: true }, () => {
        onDone()
        offerBack(standing)
      })
    })
  return (
    <section aria-label="Propose it" className="flex flex-col gap-2 rounded-xl border-2 border-ink bg-sheet p-4">
      <Input
        aria-label="Why"
        placeholder="Why, for the team"
        maxLength={300}
        value={note}
        onChange={(e) => setNote(e.target.value)}
      />
      <div className="flex flex-wrap gap-2">
        <Button look={lead ? 'plain' : 'main'} disabled={send.isPending} onClick={() => go(false)}>
          Propose it
        </Button>
        {lead && (
          <Button look="main" disabled={send.isPending || settle.isPending} onClick={() => go(true)}>
            Agree it as a whole
          </Button>
        )}
      </div>
      {error && <Notice kind="wrong">{error.message}</Notice>}
    </section>
  )
}

type Props = { list: Proposal[]; standing: string[]; lead: boolean; onShow: (after: string[]) => void }

const day = (text: string) => new Date(text).toLocaleDateString('en-GB', { day: 'numeric', month: 'short' })

/** What was proposed and what became of it. */
export function Proposals({ list, standing, lead, onShow }: Props) {
  const settle = useDecide()
  if (list.length === 0) return null
  const open = list.filter((p) => p.state === 'open')
  const rest = list.filter((p) => p.state !== 'open').slice(0, 6)
  return (
    <section aria-label="Proposals" className="flex flex-col gap-2">
      {open.map((p) => (
        <div
          key={p.proposal_id}
          className="flex flex-col gap-2 rounded-xl border-2 border-dashed border-ink bg-sheet p-3"
        >
          <p>
            <b>Proposed by {p.made_by}</b>, {day(p.made_at)}
            {p.note && `: ${p.note}`}
          </p>
          {p.before.some((id, i) => id !== standing[i]) && (
            <Notice kind="care">The order was changed since. Look at it, and propose it anew.</Notice>
          )}
          <div className="flex flex-wrap gap-2">
            <Button onClick={() => onShow(p.after)}>Look at it</Button>
            {lead && (
              <>
                <Button
                  look="main"
                  disabled={settle.isPending}
                  onClick={() => callThen(settle, { id: p.proposal_id, agree: true }, () => offerBack(p.before))}
                >
                  Agree
                </Button>
                <Button disabled={settle.isPending} onClick={() => settle.mutate({ id: p.proposal_id, agree: false })}>
                  Put aside
                </Button>
              </>
            )}
          </div>
        </div>
      ))}
      {settle.error && <Notice kind="wrong">{settle.error.message}</Notice>}
      {rest.length > 0 && (
        <details className="text-sm">
          <summary className="min-h-11 cursor-pointer content-center font-bold">Decided before</summary>
          <ul>
            {rest.map((p) => (
              <li key={p.proposal_id} className="border-b border-line py-1">
                {p.state} by {p.decided_by}, {p.decided_at && day(p.decided_at)}
                {p.note && `: ${p.note}`}
              </li>
            ))}
          </ul>
        </details>
      )}
    </section>
  )
}
