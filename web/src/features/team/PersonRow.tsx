import { useState } from 'react'
import { faultOf } from '../../api/client'
import { Button, Field, Input, Notice, Select } from '../../ui/parts'
import {
  useDropSecond,
  usePause,
  useRemovePerson,
  useResetByLink,
  useResetPassword,
  useSetRole,
  type Person,
} from './api'
import { Once } from './Links'

const roles = ['lead', 'teacher', 'assistant'] as const

/** Somebody of the team; a lead opens it to change the account. */
export function PersonRow({ person, lead }: { person: Person; lead: boolean }) {
  const line = (
    <>
      <b className="min-w-28 flex-1">
        {person.name}
        {person.paused && ' (paused)'}
      </b>
      <span className="min-w-48 flex-[2] truncate text-soft">{person.email}</span>
      <span className="w-20 text-right">{person.role}</span>
    </>
  )
  if (!lead) return <li className="flex min-h-11 flex-wrap items-center gap-x-3 border-b border-line">{line}</li>
  return (
    <li className="border-b border-line">
      <details>
        <summary className="flex min-h-11 cursor-pointer flex-wrap items-center gap-x-3">
          {line}
          <span className="w-16 text-right font-bold underline underline-offset-4">Change</span>
        </summary>
        <Account person={person} />
      </details>
    </li>
  )
}

function Account({ person }: { person: Person }) {
  const [password, setPassword] = useState('')
  const [done, setDone] = useState('')
  const [sure, setSure] = useState(false)
  const role = useSetRole(person.member_id)
  const reset = useResetPassword(person.member_id, () => {
    setPassword('')
    setDone(`${person.name} signs in with the new password now. All sessions have ended.`)
  })
  const remove = useRemovePerson(person.member_id)
  const link = useResetByLink(person.member_id)
  const pause = usePause(person.member_id)
  const second = useDropSecond(person.member_id)
  const failed = second.error ?? role.error ?? remove.error ?? link.error ?? pause.error
  return (
    <div className="flex flex-col gap-3 rounded-lg bg-paper p-3">
      <Field label={`Role of ${person.name}`} hint="It counts from the next click on.">
        {(ids) => (
          <Select
            {...ids}
            value={person.role}
            disabled={role.isPending}
            onChange={(e) => role.mutate(e.target.value as Person['role'])}
            wide
          >
            {roles.map((r) => (
              <option key={r}>{r}</option>
            ))}
          </Select>
        )}
      </Field>
      <form
        className="flex flex-wrap in-row gap-3"
        onSubmit={(e) => {
          e.preventDefault()
          setDone('')
          reset.mutate(password)
        }}
      >
        <div className="min-w-56 flex-1">
          <Field
            label={`New password for ${person.name}`}
            hint="12 signs or more. Say it in person; it can be changed after signing in."
            error={faultOf(reset.error, 'password')}
          >
            {(ids) => (
              <Input
                {...ids}
                type="password"
                autoComplete="new-password"
                value={password}
                onChange={(e) => setPassword(e.target.value)}
              />
            )}
          </Field>
        </div>
        <Button type="submit" disabled={reset.isPending || password === ''}>
          Set it
        </Button>
      </form>
      <p className="flex flex-wrap items-center gap-3">
        <Button disabled={link.isPending} onClick={() => link.mutate()}>
          Make a link for a new password
        </Button>
        <Button disabled={pause.isPending} onClick={() => pause.mutate(!person.paused)}>
          {person.paused ? `Let ${person.name} in again` : 'Pause the account'}
        </Button>
        <span className="text-sm text-soft">Who is paused is signed out at once and cannot sign in meanwhile.</span>
      </p>
      {person.second && (
        <p className="flex flex-wrap items-center gap-3">
          <Button disabled={second.isPending} onClick={() => second.mutate('')}>
            Ask for no code any more
          </Button>
          <span className="text-sm text-soft">
            Only when phone and paper are gone, and you know that it is {person.name} who asks.
          </span>
        </p>
      )}
      {link.data && <Once link={link.data} whom={person.name} />}
      {done && <Notice kind="good">{done}</Notice>}
      {failed && <Notice kind="wrong">{failed.message}</Notice>}
      {sure ? (
        <div className="flex flex-wrap items-center gap-3">
          <p>
            {person.name} is signed out everywhere at once. What {person.name} wrote and recorded stays, under the name.
          </p>
          <Button look="danger" disabled={remove.isPending} onClick={() => remove.mutate()}>
            Yes, remove {person.name}
          </Button>
          <Button onClick={() => setSure(false)}>Keep</Button>
        </div>
      ) : (
        <Button look="danger" className="self-start" onClick={() => setSure(true)}>
          Remove from the team …
        </Button>
      )}
    </div>
  )
}
