import { Link } from '@tanstack/react-router'
import { useMemo, useState } from 'react'
import type { WallCard } from '../../api/client'
import { callThen, mayI, useMe, useWall } from '../../api/shared'
import { fieldName } from '../../ui/fields'
import { Button, Failed, Field, Heading, Input, Notice, Waiting } from '../../ui/parts'
import { offerUndo } from '../../ui/undo'
import { useAudit, useLeave, useMend, useTakeUp, type Finding } from './api'
import { groups } from './model'

type Cards = ReadonlyMap<string, WallCard>

/** What contradicts itself over the whole library, with a way to mend it or to leave it. */
export function AuditPage() {
  const audit = useAudit()
  const wall = useWall()
  const me = useMe()
  const cards = useMemo(() => new Map((wall.data ?? []).map((c) => [c.card_id, c])), [wall.data])
  const error = audit.error ?? wall.error
  if (error && !(audit.data && wall.data)) return <Failed error={error} />
  if (!audit.data || !wall.data) return <Waiting what="Looking along every ledge …" />
  const { open, left } = groups(audit.data.findings)
  const may = mayI(me.data?.rights, 'edit')
  return (
    <div className="mx-auto flex max-w-5xl flex-col gap-6 p-4 sm:p-6">
      <div>
        <Heading>Does the library agree with itself?</Heading>
        <p className="pt-2 text-lg">
          {audit.data.cards} cards and {audit.data.takes} takes were looked over, drafts too.{' '}
          {audit.data.open === 0 ? (
            <b>✓ Nothing contradicts itself.</b>
          ) : (
            <>
              <b>{audit.data.open}</b> {audit.data.open === 1 ? 'thing stands' : 'things stand'} out. Mend it, or leave
              it with a reason.
            </>
          )}
        </p>
      </div>
      {open.map((g) => (
        <section key={g.code} className="flex flex-col gap-1">
          <Heading level={2}>{g.name}</Heading>
          <ul className="divide-y divide-line">
            {g.list.map((f) => (
              <Row key={f.key} finding={f} cards={cards} may={may} />
            ))}
          </ul>
        </section>
      ))}
      {left.length > 0 && <Left list={left} cards={cards} may={may} />}
    </div>
  )
}

function Glyphs({ ids, cards }: { ids: string[]; cards: Cards }) {
  return (
    <span className="flex w-24 shrink-0 flex-wrap">
      {ids.map((id) => (
        <Link
          key={id}
          to="/cards/$cardId"
          params={{ cardId: id }}
          aria-label={`To the card ${cards.get(id)?.pair.grapheme ?? ''}`}
          className="inline-flex min-h-11 min-w-11 items-center justify-center rounded font-child text-3xl font-bold hover:bg-marigold/25"
        >
          {cards.get(id)?.pair.grapheme}
        </Link>
      ))}
    </span>
  )
}

function Row({ finding: f, cards, may }: { finding: Finding; cards: Cards; may: boolean }) {
  const mend = useMend()
  const [leaving, setLeaving] = useState(false)
  return (
    <li className="flex flex-wrap items-center gap-x-4 gap-y-2 py-2">
      <Glyphs ids={f.cards} cards={cards} />
      <p className="min-w-64 flex-1 text-lg">
        <span className="block text-sm font-bold text-soft first-letter:uppercase">{fieldName(f.field)}</span>
        {f.text}
      </p>
      {may && !leaving && (
        <span className="flex flex-wrap gap-2">
          {f.mend && (
            <Button look="main" disabled={mend.isPending} onClick={() => mend.mutate(f.key)}>
              {f.mend.label}
            </Button>
          )}
          <Button onClick={() => setLeaving(true)}>We know; leave it</Button>
        </span>
      )}
      {leaving && <Leave finding={f} onClose={() => setLeaving(false)} />}
      {mend.error && (
        <div className="basis-full">
          <Notice kind="wrong">{mend.error.message}</Notice>
        </div>
      )}
    </li>
  )
}

function Leave({ finding, onClose }: { finding: Finding; onClose: () => void }) {
  const leave = useLeave()
  const back = useTakeUp()
  const [why, setWhy] = useState('')
  return (
    <form
      className="flex basis-full flex-wrap in-row gap-2"
      onSubmit={(e) => {
        e.preventDefault()
        callThen(leave, { key: finding.key, why }, () =>
          offerUndo('It is left as it is.', () => back.mutate(finding.key)),
        )
      }}
    >
      <div className="min-w-64 flex-1">
        <Field label="Why it stays as it is" error={leave.error?.message}>
          {(ids) => <Input {...ids} autoFocus maxLength={300} value={why} onChange={(e) => setWhy(e.target.value)} />}
        </Field>
      </div>
      <Button type="submit" look="main" disabled={leave.isPending}>
        Leave it
      </Button>
      <Button look="quiet" onClick={onClose}>
        Back
      </Button>
    </form>
  )
}

function Left({ list, cards, may }: { list: Finding[]; cards: Cards; may: boolean }) {
  const back = useTakeUp()
  return (
    <details>
      <summary className="min-h-11 cursor-pointer content-center text-lg font-bold">
        Known, and left as it is ({list.length})
      </summary>
      <ul className="divide-y divide-line">
        {list.map((f) => (
          <li key={f.key} className="flex flex-wrap items-center gap-4 py-2">
            <Glyphs ids={f.cards} cards={cards} />
            <p className="min-w-64 flex-1">
              {f.text}
              <span className="block text-soft">
                {f.left?.left_by}: “{f.left?.why}”
              </span>
            </p>
            {may && (
              <Button look="quiet" disabled={back.isPending} onClick={() => back.mutate(f.key)}>
                Take it up again
              </Button>
            )}
          </li>
        ))}
      </ul>
      {back.error && <Notice kind="wrong">{back.error.message}</Notice>}
    </details>
  )
}
