import { Link } from '@tanstack/react-router'
import { diffWords } from 'diff'
import { useState } from 'react'
import { faultOf } from '../../api/client'
import { callThen } from '../../api/shared'
import { fieldName } from '../../ui/fields'
import { Button, Field, Heading, Input, Notice, Check } from '../../ui/parts'
import { useAddress } from '../../ui/useAddress'
import { useSettled } from '../../ui/useSettled'
import { useReplace, useUses, type Use } from './api'

const plain = { what: '', with: '' }

/** Where a word or a wording stands in the library, and another one in its place. */
export function Replace({ may }: { may: boolean }) {
  const [at, change] = useAddress(plain)
  const asked = useSettled(at.what.trim(), 300)
  const withThis = useSettled(at.with.trim(), 300)
  const uses = useUses(asked, withThis)
  const replace = useReplace()
  const [off, setOff] = useState<readonly string[]>([])
  const [done, setDone] = useState('')
  const list = asked ? (uses.data ?? []) : []
  const chosen = list.filter((u) => !off.includes(u.key))
  return (
    <div className="flex flex-col gap-5">
      <p className="max-w-prose text-lg">
        Who uses what: every card and text in which a word or a wording stands whole. A new name for a character,
        another word for an object: choose the places, and they change as drafts beside what is agreed.
      </p>
      <div className="flex flex-wrap in-row gap-3">
        <div className="min-w-56 flex-1">
          <Field label="Look for" error={faultOf(uses.error, 'what') ?? faultOf(replace.error, 'what')}>
            {(ids) => (
              <Input
                {...ids}
                maxLength={120}
                value={at.what}
                onChange={(e) => {
                  setDone('')
                  setOff([])
                  change({ what: e.target.value })
                }}
              />
            )}
          </Field>
        </div>
        {may && (
          <div className="min-w-56 flex-1">
            <Field label="Put there instead" error={faultOf(replace.error, 'with')}>
              {(ids) => (
                <Input {...ids} maxLength={120} value={at.with} onChange={(e) => change({ with: e.target.value })} />
              )}
            </Field>
          </div>
        )}
        {may && (
          <Button
            look="main"
            disabled={replace.isPending || chosen.length === 0 || withThis === '' || withThis !== at.with.trim()}
            onClick={() =>
              callThen(replace, { what: asked, with: withThis, keys: chosen.map((u) => u.key) }, (r) => {
                setDone(
                  `“${asked}” became “${withThis}” in ${r.places} ${r.places === 1 ? 'place' : 'places'}. Cards that were agreed are drafts now; former versions stand on each card.`,
                )
                change({ what: withThis, with: '' })
              })
            }
          >
            Change {chosen.length} {chosen.length === 1 ? 'place' : 'places'}
          </Button>
        )}
      </div>
      {done && (
        <Notice kind="good">
          <span className="text-base">{done}</span>
        </Notice>
      )}
      {uses.error && !faultOf(uses.error, 'what') && <Notice kind="wrong">{uses.error.message}</Notice>}
      {asked !== '' && uses.data && list.length === 0 && <p className="text-lg">“{asked}” stands nowhere.</p>}
      {list.length > 0 && (
        <section>
          <Heading level={2}>
            {list.length} {list.length === 1 ? 'place' : 'places'}
          </Heading>
          <ul className="divide-y divide-line">
            {list.map((u) => (
              <Row
                key={u.key}
                use={u}
                may={may && withThis !== ''}
                on={!off.includes(u.key)}
                onPick={(yes) => setOff(yes ? off.filter((k) => k !== u.key) : [...off, u.key])}
              />
            ))}
          </ul>
        </section>
      )}
    </div>
  )
}

function Row({ use: u, may, on, onPick }: { use: Use; may: boolean; on: boolean; onPick: (yes: boolean) => void }) {
  const where = u.card_id ? `${u.pair.grapheme}, ${fieldName(u.field)}` : 'text of the bank'
  return (
    <li className="flex flex-wrap items-center gap-x-4 gap-y-1 py-2">
      {may && (
        <Check
          className="size-11 justify-center"
          aria-label={`Change ${where}`}
          checked={on}
          onChange={(e) => onPick(e.target.checked)}
        ></Check>
      )}
      {u.card_id ? (
        <Link
          to="/cards/$cardId"
          params={{ cardId: u.card_id }}
          className="flex min-h-11 w-48 items-center gap-3 hover:underline"
        >
          <span className="font-child text-3xl font-bold">{u.pair.grapheme}</span>
          <span className="text-base">{fieldName(u.field)}</span>
        </Link>
      ) : (
        <Link to="/texts" className="flex min-h-11 w-48 items-center text-base hover:underline">
          text of the bank
        </Link>
      )}
      <span className="min-w-56 flex-1 text-lg whitespace-pre-line">
        {u.text === u.after || !may
          ? u.text
          : diffWords(u.text, u.after).map((p, i) =>
              p.added ? (
                <ins key={i} className="bg-mint/50 no-underline">
                  {p.value}
                </ins>
              ) : p.removed ? (
                <s key={i} className="text-soft">
                  {p.value}
                </s>
              ) : (
                <span key={i}>{p.value}</span>
              ),
            )}
      </span>
    </li>
  )
}
