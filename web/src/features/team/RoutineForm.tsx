import { useState } from 'react'
import { callThen, useClasses, useVocabulary } from '../../api/shared'
import { useKept } from '../../api/useKept'
import { Button, Heading, Inline, Input, Notice, Select } from '../../ui/parts'
import { useAgreeRoutine, type RoutineView } from './api'
import { changed, moved, type RoutineStep } from './model'
import { StepOptions } from './StepOptions'
import { Unsettled } from './Unsettled'

/** The order in which lessons run: one routine for each purpose, and variants of classes. */
export function Routines({ list, lead }: { list: RoutineView[]; lead: boolean }) {
  const vocabulary = useVocabulary()
  const classes = useClasses()
  const save = useAgreeRoutine()
  const [purpose, setPurpose] = useState('introduce')
  const [classId, setClassId] = useState('')
  const team = list.find((r) => r.purpose === purpose && r.class_id === '')
  const own = list.find((r) => r.purpose === purpose && r.class_id === classId)
  const shown = own ?? (team && { ...team, class_id: classId, set: false })
  const look = (change: () => void) => {
    save.reset() // what was said of the other routine
    change()
  }
  return (
    <section className="flex flex-col gap-3">
      <Heading level={2}>Our routines</Heading>
      <p className="flex flex-wrap items-center gap-2">
        To
        <Inline aria-label="Purpose" value={purpose} onChange={(e) => look(() => setPurpose(e.target.value))}>
          {vocabulary.data?.purposes.map((p) => (
            <option key={p.purpose} value={p.purpose}>
              {p.name}
            </option>
          ))}
        </Inline>
        for
        <Inline aria-label="For whom" value={classId} onChange={(e) => look(() => setClassId(e.target.value))}>
          <option value="">every class</option>
          {classes.data?.map((c) => (
            <option key={c.class_id} value={c.class_id}>
              {c.name} only
            </option>
          ))}
        </Inline>
        <span className="text-sm text-soft">
          {shown?.set ? 'as you agreed it' : classId ? 'as for every class' : 'as it ships'}
        </span>
      </p>
      {shown && (
        <RoutineForm
          key={purpose + classId + JSON.stringify(shown.routine)}
          view={shown}
          may={lead || classId !== ''}
          save={save}
        />
      )}
      {save.isSuccess && <Notice kind="good">Agreed. New lessons run in this order.</Notice>}
      {save.error && <Notice kind="wrong">{save.error.message}</Notice>}
    </section>
  )
}

type FormProps = { view: RoutineView; may: boolean; save: ReturnType<typeof useAgreeRoutine> }

function RoutineForm({ view, may, save }: FormProps) {
  const kept = useKept(`routine ${view.purpose} ${view.class_id}`, view.routine.steps)
  const { value: steps, set: setSteps } = kept
  const kinds = useVocabulary().data?.steps ?? []
  return (
    <>
      <ol className="flex flex-col gap-1">
        {steps.map((s, i) => (
          <StepRow
            key={`${s.kind}-${i}`}
            step={s}
            at={i}
            last={i === steps.length - 1}
            may={may}
            onChange={(part) => setSteps(changed(steps, i, part))}
            onMove={(by) => setSteps(moved(steps, i, by))}
            onDrop={() => setSteps(steps.filter((_, k) => k !== i))}
          />
        ))}
      </ol>
      <Unsettled kept={kept} word="agreed" />
      {may && (
        <div className="flex flex-wrap items-center gap-2">
          <Inline aria-label="Add a step" value="" onChange={(e) => setSteps([...steps, { kind: e.target.value }])}>
            <option value="">+ a step</option>
            {kinds.map((k) => (
              <option key={k.kind} value={k.kind}>
                {k.name}: {k.about}
              </option>
            ))}
          </Inline>
          <Button
            look="main"
            disabled={save.isPending}
            onClick={() =>
              callThen(save, { ...view, set: true, routine: { name: view.routine.name, steps } }, kept.settle)
            }
          >
            Agree this routine
          </Button>
          {view.set && (
            <Button
              disabled={save.isPending}
              onClick={() => callThen(save, { ...view, set: false, routine: { name: '', steps: [] } }, kept.settle)}
            >
              {view.class_id ? 'As for every class' : 'As it ships'}
            </Button>
          )}
        </div>
      )}
    </>
  )
}

type RowProps = {
  step: RoutineStep
  at: number
  last: boolean
  may: boolean
  onChange: (part: Partial<RoutineStep>) => void
  onMove: (by: number) => void
  onDrop: () => void
}

function StepRow({ step: s, at, last, may, onChange, onMove, onDrop }: RowProps) {
  const kind = useVocabulary().data?.steps.find((k) => k.kind === s.kind)
  const name = s.name || kind?.name || s.kind
  if (!may)
    return (
      <li className="flex items-baseline gap-3 border-b border-line py-1">
        <span className="w-6 shrink-0 text-right text-soft">{at + 1}</span>
        <b>{name}</b>
        <span className="text-sm">{kind?.about}</span>
        {(s.weight ?? 1) !== 1 && <span className="ml-auto text-sm">{(s.weight ?? 1) < 1 ? 'short' : 'long'}</span>}
      </li>
    )
  return (
    <li className="flex flex-wrap items-center gap-2">
      <span className="w-6 shrink-0 text-right text-soft">{at + 1}</span>
      <span className="min-w-36 flex-1">
        <Input
          aria-label={`Name of step ${at + 1}`}
          maxLength={40}
          disabled={!may}
          title={kind?.about}
          value={s.name ?? kind?.name ?? ''}
          onChange={(e) => onChange({ name: e.target.value })}
        />
      </span>
      <Select
        aria-label={`Time of ${name}`}
        disabled={!may}
        value={s.weight ?? 1}
        onChange={(e) => onChange({ weight: Number(e.target.value) })}
      >
        {[...new Set([0.5, 1, 2, s.weight ?? 1])]
          .sort((a, b) => a - b)
          .map((w) => (
            <option key={w} value={w}>
              {w < 1 ? 'short' : w > 1 ? 'long' : 'usual'}
            </option>
          ))}
      </Select>
      <span className="flex gap-1">
        <Button aria-label={`Move ${name} up`} disabled={at === 0} onClick={() => onMove(-1)}>
          ↑
        </Button>
        <Button aria-label={`Move ${name} down`} disabled={last} onClick={() => onMove(1)}>
          ↓
        </Button>
        <Button aria-label={`Drop ${name}`} onClick={onDrop}>
          ×
        </Button>
      </span>
      {kind && <StepOptions {...{ step: s, kind, name, may, onChange }} />}
    </li>
  )
}
