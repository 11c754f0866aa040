import { useState } from 'react'
import { faultOf } from '../../api/client'
import { useKept } from '../../api/useKept'
import { Button, Field, Heading, Input, Select } from '../../ui/parts'
import { AccountEvents } from './AccountEvents'
import { useMembers } from '../../api/shared'
import { useInvite, type NewMember } from './api'
import { Former, Invite } from './Links'
import { OwnPassword } from './OwnPassword'
import { OwnMail } from './OwnMail'
import { OwnProvider } from './OwnProvider'
import { OwnSecond } from './OwnSecond'
import { OwnSessions } from './OwnSessions'
import { PersonRow } from './PersonRow'

const empty: NewMember = { name: '', email: '', role: 'teacher', password: '' }

export function Members({ lead }: { lead: boolean }) {
  const members = useMembers()
  // A half-written invitation outlives leaving the page, its password does not.
  const { value: kept, set: keep, settle } = useKept('invitation', empty)
  const [password, setPassword] = useState('')
  const form = { ...kept, password }
  const setForm = (f: NewMember) => {
    keep({ ...f, password: '' })
    setPassword(f.password)
  }
  const add = useInvite(() => {
    settle()
    setPassword('')
  })
  const wrong = (f: string) => faultOf(add.error, f)
  return (
    <section className="flex flex-col gap-3">
      <Heading level={2}>People</Heading>
      <ul>
        {members.data?.map((m) => (
          <PersonRow key={m.member_id} person={m} lead={lead} />
        ))}
      </ul>
      {lead && (
        <details>
          <summary className="min-h-11 content-center font-bold">Add a person with a first password</summary>
          <form
            className="grid gap-3 sm:grid-cols-2"
            onSubmit={(e) => {
              e.preventDefault()
              add.mutate(form)
            }}
          >
            <Field label="Name" error={wrong('name')}>
              {(ids) => (
                <Input {...ids} value={form.name} onChange={(e) => setForm({ ...form, name: e.target.value })} />
              )}
            </Field>
            <Field label="E-mail" error={wrong('email')}>
              {(ids) => (
                <Input
                  {...ids}
                  type="email"
                  value={form.email}
                  onChange={(e) => setForm({ ...form, email: e.target.value })}
                />
              )}
            </Field>
            <Field label="Role">
              {(ids) => (
                <Select
                  {...ids}
                  value={form.role}
                  onChange={(e) => setForm({ ...form, role: e.target.value as NewMember['role'] })}
                  wide
                >
                  <option>teacher</option>
                  <option>assistant</option>
                  <option>lead</option>
                </Select>
              )}
            </Field>
            <Field label="First password" error={wrong('password')}>
              {(ids) => (
                <Input
                  {...ids}
                  type="password"
                  autoComplete="new-password"
                  value={form.password}
                  onChange={(e) => setForm({ ...form, password: e.target.value })}
                />
              )}
            </Field>
            <Button type="submit" disabled={add.isPending}>
              Add
            </Button>
          </form>
        </details>
      )}
      {lead && <Invite />}
      {lead && <Former />}
      <OwnPassword />
      <OwnSecond />
      <OwnProvider />
      <OwnMail />
      <OwnSessions />
      {lead && <AccountEvents />}
    </section>
  )
}
