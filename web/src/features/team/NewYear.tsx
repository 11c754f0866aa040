import { Modal } from '../../ui/Modal'
import { useState } from 'react'
import { callThen, useClasses } from '../../api/shared'
import { Button, Input, Notice, Select, Check } from '../../ui/parts'
import { useBringBack, useMoveUp, usePastClasses, type Move } from './api'

type What = 'stays' | 'moves' | 'leaves'
type Plan = { what: What; name: string; knows: boolean }

const fresh = (name: string): Plan => ({ what: 'moves', name, knows: true })

/** A new school year: what becomes of each class, all at once. */
export default function NewYear({ onClose }: { onClose: () => void }) {
  const classes = useClasses().data ?? []
  const [plans, setPlans] = useState<Record<string, Plan>>({})
  const move = useMoveUp()
  const of = (id: string, name: string) => plans[id] ?? fresh(name)
  const set = (id: string, name: string, part: Partial<Plan>) =>
    setPlans({ ...plans, [id]: { ...of(id, name), ...part } })
  const moves: Move[] = classes.flatMap((c) => {
    const p = of(c.class_id, c.name)
    if (p.what === 'stays') return []
    return [{ class_id: c.class_id, name: p.what === 'leaves' ? '' : p.name.trim(), knows: p.knows }]
  })
  const nameless = classes.some((c) => of(c.class_id, c.name).what === 'moves' && !of(c.class_id, c.name).name.trim())
  return (
    <Modal
      title="A new school year"
      about="What becomes of each class? The old ones are put aside with all that was logged; all of it happens at once."
      width="max-w-3xl"
      onClose={onClose}
    >
      <ul className="flex flex-col divide-y divide-line">
        {classes.map((c) => {
          const p = of(c.class_id, c.name)
          const change = (part: Partial<Plan>) => set(c.class_id, c.name, part)
          return (
            <li key={c.class_id} className="grid items-center gap-2 py-2 sm:grid-cols-[10rem_11rem_minmax(0,1fr)]">
              <b className="font-child text-xl">{c.name}</b>
              <Select
                aria-label={`What becomes of ${c.name}`}
                value={p.what}
                onChange={(e) => change({ what: e.target.value as What })}
              >
                <option value="moves">moves up, as</option>
                <option value="stays">stays as it is</option>
                <option value="leaves">leaves</option>
              </Select>
              {p.what === 'moves' && (
                <span className="flex flex-wrap items-center gap-3">
                  <Input
                    aria-label={`New name of ${c.name}`}
                    maxLength={80}
                    value={p.name}
                    className="max-w-48"
                    onChange={(e) => change({ name: e.target.value })}
                  />
                  <Check checked={p.knows} onChange={(e) => change({ knows: e.target.checked })}>
                    what it knows goes along
                  </Check>
                </span>
              )}
            </li>
          )
        })}
      </ul>
      {move.error && <Notice kind="wrong">{move.error.message}</Notice>}
      <div className="flex flex-wrap gap-2">
        <Button
          look="main"
          disabled={move.isPending || moves.length === 0 || nameless}
          onClick={() => callThen(move, moves, onClose)}
        >
          Begin the year
        </Button>
        <Button onClick={onClose}>Not yet</Button>
        {nameless && <span className="self-center text-sm">A class that moves up needs a name.</span>}
      </div>
    </Modal>
  )
}

/** The classes of former years. */
export function PastClasses({ lead }: { lead: boolean }) {
  const past = usePastClasses()
  const back = useBringBack()
  if (!past.data || past.data.length === 0) return null
  return (
    <details>
      <summary className="min-h-11 cursor-pointer content-center font-bold">Put aside ({past.data.length})</summary>
      <ul>
        {past.data.map((c) => (
          <li key={c.class_id} className="flex min-h-11 flex-wrap items-center justify-between border-b border-line">
            <span>
              <b>{c.name}</b>, {new Date(c.archived_at).toLocaleDateString('en-GB', { month: 'long', year: 'numeric' })}
              {c.moved_to && `, became ${c.moved_to}`}
            </span>
            {lead && (
              <Button look="quiet" disabled={back.isPending} onClick={() => back.mutate(c.class_id)}>
                Bring it back
              </Button>
            )}
          </li>
        ))}
      </ul>
      {back.error && <Notice kind="wrong">{back.error.message}</Notice>}
    </details>
  )
}
