import { useState } from 'react'
import type { Routine } from '../../api/client'
import { useVocabulary } from '../../api/shared'
import { Button, Heading, Input, Notice } from '../../ui/parts'
import { useAgreeRoutine } from './api'
import { changed, moved } from './model'

/** The order in which an introduction runs. */
export function RoutineForm({ routine, lead }: { routine: Routine; lead: boolean }) {
  const [steps, setSteps] = useState(routine.steps)
  const kinds = useVocabulary().data?.steps ?? []
  const save = useAgreeRoutine()
  const left = kinds.filter((k) => !steps.some((s) => s.kind === k.kind))
  return (
    <section className="flex flex-col gap-3">
      <Heading level={2}>Our routine</Heading>
      <ol className="flex flex-col gap-1">
        {steps.map((s, i) => (
          <li key={s.kind} className="flex items-center gap-2">
            <span className="w-6 shrink-0 text-right text-soft">{i + 1}</span>
            <Input
              aria-label={`Name of step ${i + 1}`}
              maxLength={40}
              disabled={!lead}
              value={s.name ?? ''}
              onChange={(e) => setSteps(changed(steps, i, { name: e.target.value }))}
            />
            <select
              aria-label={`Time of ${s.name ?? s.kind}`}
              disabled={!lead}
              value={s.weight ?? 1}
              onChange={(e) => setSteps(changed(steps, i, { weight: Number(e.target.value) }))}
              className="min-h-11 rounded-md border-2 border-line bg-sheet px-2"
            >
              <option value={0.5}>short</option>
              <option value={1}>usual</option>
              <option value={2}>long</option>
            </select>
            {lead && (
              <>
                <Button
                  aria-label={`Move ${s.name ?? s.kind} up`}
                  disabled={i === 0}
                  onClick={() => setSteps(moved(steps, i, -1))}
                >
                  ↑
                </Button>
                <Button
                  aria-label={`Move ${s.name ?? s.kind} down`}
                  disabled={i === steps.length - 1}
                  onClick={() => setSteps(moved(steps, i, 1))}
                >
                  ↓
                </Button>
                <Button
                  aria-label={`Drop ${s.name ?? s.kind}`}
                  onClick={() => setSteps(steps.filter((_, k) => k !== i))}
                >
                  ×
                </Button>
              </>
            )}
          </li>
        ))}
      </ol>
      {lead && (
        <div className="flex flex-wrap gap-2">
          {left.map(({ kind, name }) => (
            <Button key={kind} onClick={() => setSteps([...steps, { kind, name }])}>
              + {name}
            </Button>
          ))}
          <Button look="main" disabled={save.isPending} onClick={() => save.mutate({ name: routine.name, steps })}>
            Agree this routine
          </Button>
        </div>
      )}
      {save.isSuccess && <Notice kind="good">Agreed. New introductions run in this order.</Notice>}
      {save.error && <Notice kind="wrong">{save.error.message}</Notice>}
    </section>
  )
}
