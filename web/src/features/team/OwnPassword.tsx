import { useState } from 'react'
import { faultOf } from '../../api/client'
import { Button, Field, Input, Notice } from '../../ui/parts'
import { useOwnPassword } from './api'

const empty = { current: '', next: '' }

export function OwnPassword() {
  const [form, setForm] = useState(empty)
  const change = useOwnPassword(() => setForm(empty))
  const other = (faultOf(change.error, 'current') ?? faultOf(change.error, 'next')) ? null : change.error
  return (
    <details>
      <summary className="min-h-11 cursor-pointer content-center font-bold">Change your own password</summary>
      <form
        className="grid gap-3 sm:grid-cols-2"
        onSubmit={(e) => {
          e.preventDefault()
          change.mutate(form)
        }}
      >
        <Field label="Your password now" error={faultOf(change.error, 'current')}>
          {(ids) => (
            <Input
              {...ids}
              type="password"
              autoComplete="current-password"
              value={form.current}
              onChange={(e) => setForm({ ...form, current: e.target.value })}
            />
          )}
        </Field>
        <Field label="New password" hint="12 signs or more" error={faultOf(change.error, 'next')}>
          {(ids) => (
            <Input
              {...ids}
              type="password"
              autoComplete="new-password"
              value={form.next}
              onChange={(e) => setForm({ ...form, next: e.target.value })}
            />
          )}
        </Field>
        <Button type="submit" className="justify-self-start" disabled={change.isPending || !form.current || !form.next}>
          Change it
        </Button>
      </form>
      {change.isSuccess && form === empty && (
        <Notice kind="good">Changed. You stay signed in here and are signed out everywhere else.</Notice>
      )}
      {other && <Notice kind="wrong">{other.message}</Notice>}
    </details>
  )
}
