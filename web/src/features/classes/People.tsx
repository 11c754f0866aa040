import { useState } from 'react'
import { useNavigate } from '@tanstack/react-router'
import { callThen, mayI, useMe, useMembers } from '../../api/shared'
import { Button, Field, Heading, Input, Notice, Check } from '../../ui/parts'
import { offerUndo } from '../../ui/undo'
import { useArchive, useRename, useSetTeachers, useTeachers, type ClassView } from './api'

/** Who teaches the class, what it is called, and how it is put aside. */
export function People({ klass, may }: { klass: ClassView; may: boolean }) {
  const team = useMembers()
  const all = useTeachers()
  const set = useSetTeachers(klass.class_id)
  const me = useMe()
  const teach = (all.data ?? []).filter((t) => t.class_id === klass.class_id).map((t) => t.member_id)
  return (
    <section className="flex flex-col gap-3">
      <Heading level={2}>Its people</Heading>
      <fieldset className="flex flex-wrap gap-x-6">
        <legend className="text-soft">Who is ticked finds the class on the page of the day.</legend>
        {team.data?.map((p) => (
          <Check
            key={p.member_id}
            disabled={!may || set.isPending || !all.data}
            checked={teach.includes(p.member_id)}
            onChange={(e) =>
              set.mutate(e.target.checked ? [...teach, p.member_id] : teach.filter((t) => t !== p.member_id))
            }
          >
            {p.name}
          </Check>
        ))}
      </fieldset>
      {set.error && <Notice kind="wrong">{set.error.message}</Notice>}
      {may && <Rename key={klass.name} klass={klass} />}
      {mayI(me.data?.rights, 'agree') && <Aside klass={klass} />}
    </section>
  )
}

function Rename({ klass }: { klass: ClassView }) {
  const [name, setName] = useState(klass.name)
  const rename = useRename(klass.class_id)
  return (
    <form
      className="flex max-w-lg in-row gap-2"
      onSubmit={(e) => {
        e.preventDefault()
        rename.mutate(name)
      }}
    >
      <div className="flex-1">
        <Field label="Its name" hint="Never a child’s." error={rename.error?.message}>
          {(ids) => <Input {...ids} maxLength={80} value={name} onChange={(e) => setName(e.target.value)} />}
        </Field>
      </div>
      {name !== klass.name && (
        <Button type="submit" disabled={rename.isPending}>
          Rename it
        </Button>
      )}
    </form>
  )
}

function Aside({ klass }: { klass: ClassView }) {
  const archive = useArchive(klass.class_id)
  const go = useNavigate()
  return (
    <p className="flex flex-wrap items-center gap-3">
      <Button
        disabled={archive.isPending}
        onClick={() =>
          callThen(archive, true, async () => {
            await go({ to: '/team', search: { tab: 'classes' } })
            offerUndo(`${klass.name} is put aside.`, () => archive.mutate(false))
          })
        }
      >
        Put this class aside
      </Button>
      <span className="text-sm text-soft">Its log stays, and it can be brought back from the list of classes.</span>
      {archive.error && <Notice kind="wrong">{archive.error.message}</Notice>}
    </p>
  )
}
