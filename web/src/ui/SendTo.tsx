import { Link } from '@tanstack/react-router'
import { useState } from 'react'
import { useLesson, useLessons, useSendToLesson, useVocabulary } from '../api/shared'
import { Button, Inline, Notice } from './parts'

type Props = { classId: string; className: string; values: string[]; kind: 'word' | 'picture' | 'sentence' | 'page' }

/** Puts words, pictures or a text into a lesson of this class that was not taught yet, in a step that takes them. */
export function SendTo({ classId, className, values, kind }: Props) {
  const list = useLessons(classId)
  const open = (list.data ?? []).filter((r) => !r.taught_at)
  const [chosen, setChosen] = useState('')
  const [wanted, setWanted] = useState('')
  const send = useSendToLesson()
  const id = open.find((r) => r.lesson_id === chosen)?.lesson_id ?? open[0]?.lesson_id ?? ''
  const lesson = useLesson(id)
  const kinds = useVocabulary().data?.steps ?? []
  const steps = (lesson.data?.lesson.steps ?? []).filter((s) =>
    kinds.find((k) => k.kind === s.kind)?.takes.includes(kind),
  )
  const step = steps.find((s) => s.id === wanted)?.id ?? (steps.find((s) => s.kind === 'read') ?? steps[0])?.id ?? ''
  if (list.data && open.length === 0)
    return (
      <span className="text-sm">
        {className || 'This class'} has no lesson that waits to be taught.{' '}
        <Link to="/lessons" className="font-bold underline underline-offset-4">
          Make one
        </Link>{' '}
        to send this into it.
      </span>
    )
  return (
    <span className="flex flex-wrap items-center gap-2">
      <label className="flex max-w-full flex-wrap items-center gap-x-2">
        into the lesson on
        <Inline aria-label="Lesson" value={id} onChange={(e) => setChosen(e.target.value)}>
          {open.map((r) => (
            <option key={r.lesson_id} value={r.lesson_id}>
              {r.grapheme}
              {r.targets > 1 ? ` and ${r.targets - 1} more` : ''}, {r.purpose},{' '}
              {new Date(r.created_at).toLocaleDateString('en-GB', { day: 'numeric', month: 'short' })}, {r.minutes} min
            </option>
          ))}
        </Inline>
      </label>
      {steps.length > 0 && (
        <Inline aria-label="Step" value={step} onChange={(e) => setWanted(e.target.value)}>
          {steps.map((s) => (
            <option key={s.id} value={s.id}>
              {s.name}
            </option>
          ))}
        </Inline>
      )}
      <Button
        look="main"
        disabled={values.length === 0 || send.isPending || !step}
        onClick={() => send.mutate({ id, step, values })}
      >
        Send
      </Button>
      {lesson.data && !step && <span className="text-sm">This lesson has no step that takes it.</span>}
      {send.error && <Notice kind="wrong">{send.error.message}</Notice>}
      {send.isSuccess && (
        <span role="status" className="font-bold text-leaf">
          ✓ sent.{' '}
          <Link to="/lessons/$lessonId" params={{ lessonId: id }} className="underline underline-offset-4">
            Open it
          </Link>
        </span>
      )}
    </span>
  )
}
