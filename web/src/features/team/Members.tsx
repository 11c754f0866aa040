import { useState } from 'react'
import { CallError } from '../../api/client'
import { Button, Field, Heading, Input, inputLook } from '../../ui/parts'
import { useInvite, useMembers, type NewMember } from './api'

const empty: NewMember = { name: '', email: '', role: 'teacher', password: '' }

export function Members({ lead }: { lead: boolean }) {
  const members = useMembers()
  const [form, setForm] = useState(empty)
  const add = useInvite(() => setForm(empty))
  const wrong = (f: string) =>
    add.error instanceof CallError && add.error.problem.field === f ? add.error.message : undefined
  return (
    <section className="flex flex-col gap-3">
      <Heading level={2}>People</Heading>
      <ul>
        {members.data?.map((m) => (
          <li key={m.email} className="flex min-h-11 items-center justify-between gap-3 border-b border-line">
            <b>{m.name}</b>
            <span className="truncate text-soft">{m.email}</span>
            <span>{m.role}</span>
          </li>
        ))}
      </ul>
      {lead && (
        <details>
          <summary className="min-h-11 content-center font-bold">Add a person</summary>
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
                <select
                  {...ids}
                  value={form.role}
                  onChange={(e) => setForm({ ...form, role: e.target.value as NewMember['role'] })}
                  className={inputLook}
                >
                  <option>teacher</option>
                  <option>assistant</option>
                  <option>lead</option>
                </select>
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
    </section>
  )
}
