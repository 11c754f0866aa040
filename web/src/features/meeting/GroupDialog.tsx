import { Modal, ModalClose } from '../../ui/Modal'
import { useNavigate } from '@tanstack/react-router'
import { useState } from 'react'
import { faultOf, type WallCard } from '../../api/client'
import { useClasses } from '../../api/shared'
import { Button, Field, Input, Notice, Check } from '../../ui/parts'
import { asIn } from '../../ui/pair'
import { useNewGroup, useShakiest } from './api'

const usually = 4 // sounds that are ticked at first

/** A group that catches up, made from the shakiest sounds of one or several classes; never from names. */
export default function GroupDialog({ cards, onClose }: { cards: ReadonlyMap<string, WallCard>; onClose: () => void }) {
  const classes = useClasses()
  const make = useNewGroup()
  const go = useNavigate()
  const [from, setFrom] = useState<string[]>([])
  const [mine, setMine] = useState<string[]>()
  const [name, setName] = useState('')
  const [flows, setFlows] = useState(true)
  const shaky = useShakiest(from)
  const list = from.length > 0 ? (shaky.data ?? []) : []
  const picked = (mine ?? list.slice(0, usually).map((k) => k.card_id)).filter((id) =>
    list.some((k) => k.card_id === id),
  )
  const toggle = (all: string[], id: string) => (all.includes(id) ? all.filter((x) => x !== id) : [...all, id])
  const known = ['name', 'from', 'cards']
  return (
    <Modal
      title="A group that catches up"
      about="By sounds, never by names: who sits in it is your own list. It begins with what all its classes know."
      onClose={onClose}
    >
      <fieldset className="flex flex-wrap gap-x-5">
        <legend className="font-bold">Children of</legend>
        {classes.data
          ?.filter((c) => c.kind === 'class')
          .map((c) => (
            <Check
              key={c.class_id}
              checked={from.includes(c.class_id)}
              onChange={() => {
                setFrom(toggle(from, c.class_id))
                setMine(undefined)
              }}
            >
              {c.name}
            </Check>
          ))}
      </fieldset>
      {faultOf(make.error, 'from') && <Notice kind="wrong">{make.error?.message}</Notice>}
      {from.length > 0 && shaky.data && list.length === 0 && (
        <Notice kind="good">Nothing is shaky there: every sound that was met holds.</Notice>
      )}
      {list.length > 0 && (
        <fieldset className="flex flex-col gap-1">
          <legend className="font-bold">Its sounds, the shakiest first</legend>
          <div tabIndex={0} className="grid max-h-64 grid-cols-2 gap-x-4 overflow-y-auto sm:grid-cols-3">
            {list.map((k) => {
              const c = cards.get(k.card_id)
              return (
                <Check
                  key={k.card_id}
                  checked={picked.includes(k.card_id)}
                  onChange={() => setMine(toggle(picked, k.card_id))}
                >
                  <b className="font-child text-2xl">{c?.pair.grapheme}</b>
                  <span className="text-sm leading-tight text-soft">
                    {c && asIn(c)}
                    <br />
                    {k.fading}
                  </span>
                </Check>
              )
            })}
          </div>
        </fieldset>
      )}
      {faultOf(make.error, 'cards') && <Notice kind="wrong">{make.error?.message}</Notice>}
      <Field
        label="Name of the group"
        hint="Of a day, a place, a colour; never a child’s."
        error={faultOf(make.error, 'name')}
      >
        {(ids) => <Input {...ids} maxLength={60} value={name} onChange={(e) => setName(e.target.value)} />}
      </Field>
      <Check checked={flows} onChange={(e) => setFlows(e.target.checked)}>
        What the group practises counts for its classes too
      </Check>
      {make.error && !known.some((f) => faultOf(make.error, f)) && <Notice kind="wrong">{make.error.message}</Notice>}
      <div className="flex justify-end gap-3">
        <ModalClose>
          <Button>Leave it</Button>
        </ModalClose>
        <Button
          look="main"
          disabled={from.length === 0 || picked.length === 0 || make.isPending}
          onClick={() =>
            make.mutate(
              { name, from, cards: picked, flows_back: flows },
              { onSuccess: ({ id }) => void go({ to: '/classes/$classId', params: { classId: id } }) },
            )
          }
        >
          Make the group
        </Button>
      </div>
    </Modal>
  )
}
