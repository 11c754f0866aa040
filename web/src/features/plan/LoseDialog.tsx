import { Modal, ModalClose } from '../../ui/Modal'
import { useState } from 'react'
import { callThen } from '../../api/shared'
import { faultOf, type WallCard } from '../../api/client'
import { Button, Input, Notice, Check } from '../../ui/parts'
import { offerUndo } from '../../ui/undo'
import { loseDay, useLoseDay, useYear, type ClassYear, type Rule } from './api'
import { long, rules, short, weekday } from './model'

type Props = {
  classId: string
  year: ClassYear
  date: string
  cards: ReadonlyMap<string, WallCard>
  onClose: () => void
}

/** A day is lost: what moves by which rule, shown before it is kept. */
export function LoseDialog({ classId, year, date, cards, onClose }: Props) {
  const [rule, setRule] = useState<Rule>(year.school.school.rule)
  const [why, setWhy] = useState('')
  const [everyone, setEveryone] = useState(false)
  const asked = useYear(classId, { lose: [date], rule })
  const lose = useLoseDay(classId)
  const moved = asked.data?.moved ?? []
  const wrong = asked.error ?? (faultOf(lose.error, 'date') ? lose.error : null)
  const keep = () =>
    callThen(lose, { date, rule, why: why.trim(), everyone, lost: true }, () => {
      offerUndo(`${long(date)} is lost${everyone ? ' for everyone' : ` for ${year.class.name}`}`, () =>
        loseDay(classId, { date, rule, why: why.trim(), everyone, lost: false }),
      )
      onClose()
    })
  return (
    <Modal title={`${long(date)} is lost`} about="What moves, and by which rule." aboutHidden onClose={onClose}>
      <fieldset className="flex flex-col gap-1">
        <legend className="font-bold">What it does to the rest</legend>
        {Object.entries(rules).map(([id, r]) => (
          <label key={id} className="flex min-h-11 items-center gap-3 rounded-md px-2 hover:bg-marigold/20">
            <input
              type="radio"
              name="rule"
              checked={rule === id}
              onChange={() => setRule(id as Rule)}
              className="size-6 shrink-0 accent-slate"
            />
            <span>
              <b>{r.name}</b>: {r.about}
              {id === year.school.school.rule && ' (your rule)'}
            </span>
          </label>
        ))}
      </fieldset>
      {wrong && <Notice kind="wrong">{wrong.message}</Notice>}
      {!asked.error && (
        <section aria-label="What moves" aria-busy={asked.isFetching} className="flex flex-col gap-1">
          <h3 className="font-bold">
            {moved.length === 0
              ? 'No new sound moves.'
              : `${moved.length} ${moved.length === 1 ? 'sound moves' : 'sounds move'}${asked.data?.ends && asked.data.ends !== year.ends ? `; the last comes on ${short(asked.data.ends)}, not on ${short(year.ends)}` : '; the last day stays'}.`}
          </h3>
          <ul tabIndex={0} className="grid max-h-44 gap-x-6 overflow-y-auto sm:grid-cols-2">
            {moved.map((m) => (
              <li key={m.card_id} className="flex items-baseline gap-2 border-b border-line py-1">
                <b className="w-14 font-child text-2xl leading-none">{cards.get(m.card_id)?.pair.grapheme}</b>
                <span>
                  {weekday(m.from).slice(0, 3)} {m.from && short(m.from)} →{' '}
                  {m.to ? `${weekday(m.to).slice(0, 3)} ${short(m.to)}` : 'no room left'}
                </span>
              </li>
            ))}
          </ul>
        </section>
      )}
      <Input
        aria-label="Why"
        placeholder="Why, if you like: snow, a trip (never about a child)"
        maxLength={80}
        value={why}
        onChange={(e) => setWhy(e.target.value)}
      />
      <Check checked={everyone} onChange={(e) => setEveryone(e.target.checked)}>
        All classes and groups lost it
      </Check>
      {lose.error && !faultOf(lose.error, 'date') && <Notice kind="wrong">{lose.error.message}</Notice>}
      <div className="flex justify-end gap-3">
        <ModalClose>
          <Button>Leave it</Button>
        </ModalClose>
        <Button look="main" disabled={lose.isPending || asked.isFetching || Boolean(asked.error)} onClick={keep}>
          Keep this plan
        </Button>
      </div>
    </Modal>
  )
}
