import { Link } from '@tanstack/react-router'
import { useState } from 'react'
import { useClasses } from '../../api/shared'
import { useKept } from '../../api/useKept'
import { Button, Field, Heading, Input, Select } from '../../ui/parts'
import { useAddClass, type NewClass } from './api'
import NewYear, { PastClasses } from './NewYear'

const plain: NewClass = { name: '', kind: 'class' }

export function Classes({ lead }: { lead: boolean }) {
  const [moving, setMoving] = useState(false)
  const classes = useClasses()
  const { value: form, set: setForm, settle } = useKept<NewClass>('new class', plain)
  const add = useAddClass(settle)
  return (
    <section className="flex flex-col gap-3">
      <Heading level={2}>Classes and groups</Heading>
      <ul>
        {classes.data?.map((c) => (
          <li key={c.class_id} className="flex min-h-11 items-center justify-between border-b border-line">
            <Link
              to="/classes/$classId"
              params={{ classId: c.class_id }}
              className="min-h-11 content-center font-bold underline underline-offset-4"
            >
              {c.name}
            </Link>
            <span>
              {c.kind}, {c.taught} {c.taught === 1 ? 'card' : 'cards'} known
            </span>
          </li>
        ))}
      </ul>
      <form
        onSubmit={(e) => {
          e.preventDefault()
          add.mutate(form)
        }}
      >
        <Field label="A new class or group" hint="Its name only, never a child’s." error={add.error?.message}>
          {(ids) => (
            <div className="flex gap-2">
              <Input
                {...ids}
                maxLength={60}
                value={form.name}
                onChange={(e) => setForm({ ...form, name: e.target.value })}
              />
              <Select
                aria-label="Class or group"
                value={form.kind}
                onChange={(e) => setForm({ ...form, kind: e.target.value as NewClass['kind'] })}
              >
                <option>class</option>
                <option>group</option>
              </Select>
              <Button type="submit" disabled={add.isPending}>
                Add
              </Button>
            </div>
          )}
        </Field>
      </form>
      {lead && (
        <p className="flex flex-wrap items-center gap-3">
          <Button onClick={() => setMoving(true)}>A new school year …</Button>
          <span className="text-sm text-soft">Classes move up, with what they know or without.</span>
        </p>
      )}
      <PastClasses lead={lead} />
      {moving && <NewYear onClose={() => setMoving(false)} />}
    </section>
  )
}
