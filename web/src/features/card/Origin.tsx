import { useState } from 'react'
import { faultOf } from '../../api/client'
import { callThen } from '../../api/shared'
import { Button, Field, Input, Notice } from '../../ui/parts'
import { useOrigin, useSetOrigin, type OriginOf } from './api'

/** Who made a picture, and how it may be used. It goes along wherever the picture goes. */
export function Origin({ picture, readOnly }: { picture: string; readOnly: boolean }) {
  const [open, setOpen] = useState(false)
  return (
    <details onToggle={(e) => setOpen(e.currentTarget.open)}>
      <summary className="min-h-11 cursor-pointer content-center text-sm font-bold">
        Who made it, and how it may be used
      </summary>
      {open && <Asked key={picture} picture={picture} readOnly={readOnly} />}
    </details>
  )
}

function Asked({ picture, readOnly }: { picture: string; readOnly: boolean }) {
  const origin = useOrigin(picture)
  if (origin.error) return <Notice kind="wrong">{origin.error.message}</Notice>
  if (!origin.data) return null
  return <Form picture={picture} known={origin.data} readOnly={readOnly} />
}

function Form({ picture, known, readOnly }: { picture: string; known: OriginOf; readOnly: boolean }) {
  const [form, setForm] = useState({ maker: known.maker, licence: known.licence })
  const set = useSetOrigin(picture)
  const changed = form.maker !== known.maker || form.licence !== known.licence
  return (
    <form
      className="flex flex-col gap-2"
      onSubmit={(e) => {
        e.preventDefault()
        callThen(set, form, () => undefined)
      }}
    >
      {known.from_team && <p className="text-sm">From the library of {known.from_team}.</p>}
      <Field label="Made by" error={faultOf(set.error, 'maker')}>
        {(ids) => (
          <Input
            {...ids}
            maxLength={200}
            readOnly={readOnly}
            value={form.maker}
            onChange={(e) => setForm({ ...form, maker: e.target.value })}
          />
        )}
      </Field>
      <Field label="May be used" hint="“our own”, or the name of a licence">
        {(ids) => (
          <Input
            {...ids}
            maxLength={200}
            readOnly={readOnly}
            value={form.licence}
            onChange={(e) => setForm({ ...form, licence: e.target.value })}
          />
        )}
      </Field>
      {!readOnly && (
        <Button type="submit" className="self-start" disabled={set.isPending || !changed}>
          Note it
        </Button>
      )}
      {set.error && !faultOf(set.error, 'maker') && <Notice kind="wrong">{set.error.message}</Notice>}
    </form>
  )
}
