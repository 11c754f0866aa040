import { useState } from 'react'
import type { LessonView, Step } from '../../api/client'
import { useLesson, useLessons } from '../../api/shared'
import { Inline } from '../../ui/parts'
import { onlyIn, valuesOf } from './model'

/** The same step in another class's lesson on the same sound: the same script, other words, and why. */
export function Beside({ step, view }: { step: Step; view: LessonView }) {
  const first = view.lesson.cards[view.lesson.targets[0] ?? '']?.pair
  const list = useLessons()
  const others = (list.data ?? []).filter(
    (l) =>
      l.lesson_id !== view.lesson_id &&
      l.purpose === view.lesson.purpose &&
      l.grapheme === first?.grapheme &&
      l.class_id !== view.class_id,
  )
  const [chosen, setChosen] = useState('')
  const other = useLesson(chosen)
  if (others.length === 0) return null
  const theirs = other.data?.lesson.steps.find((s) => s.id === step.id)
  const mine = onlyIn(view.lesson.taught, other.data?.lesson.taught ?? [])
  const ours = onlyIn(other.data?.lesson.taught ?? [], view.lesson.taught)
  return (
    <div className="rounded-md border-2 border-dashed border-line p-2 text-sm">
      <label className="flex flex-wrap items-center gap-2">
        Beside another class:
        <Inline aria-label="Beside another class" value={chosen} onChange={(e) => setChosen(e.target.value)}>
          <option value="">none</option>
          {others.map((l) => (
            <option key={l.lesson_id} value={l.lesson_id}>
              {l.class_name}, {l.minutes} minutes
            </option>
          ))}
        </Inline>
      </label>
      {other.data && (
        <p>
          {other.data.class_name}: <span className="font-child text-lg">{valuesOf(theirs, other.data.lesson)}</span>
          <br />
          Only this class knows {mine || 'nothing more'}; only {other.data.class_name} knows {ours || 'nothing more'}.
        </p>
      )}
    </div>
  )
}
