import { useState, type ReactNode } from 'react'
import type { Content } from '../../api/client'
import { Field, Heading, inputLook } from '../../ui/parts'
import { sections, type Desk, type SectionId } from './model'

/** One field of the card that is text. */
export function TextField({
  desk,
  field,
  label,
  rows = 1,
  hint,
  max,
  child = false,
}: {
  desk: Desk
  field: keyof Content
  label: string
  rows?: number
  hint?: string
  max: number
  child?: boolean
}) {
  return (
    <Field label={label} error={desk.error(field)} {...(hint ? { hint } : {})}>
      {(ids) => (
        <textarea
          {...ids}
          data-field={field}
          rows={rows}
          maxLength={max}
          readOnly={desk.readOnly}
          value={String(desk.draft[field] ?? '')}
          onChange={(e) => desk.change({ [field]: e.target.value })}
          className={`${inputLook} ${child ? 'font-child text-lg' : ''}`}
        />
      )}
    </Field>
  )
}

export function Section({ id, children }: { id: SectionId; children: ReactNode }) {
  return (
    <section id={`part-${id}`} className="flex scroll-mt-4 flex-col gap-4">
      <Heading level={2}>{sections.find((s) => s.id === id)?.title}</Heading>
      {children}
    </section>
  )
}

export const Tag = ({ children }: { children: ReactNode }) => (
  <span className="rounded-full border-2 border-ink/60 bg-sheet px-3 py-0.5">{children}</span>
)

export function Lines({
  label,
  value,
  onChange,
  readOnly,
  error,
}: {
  label: string
  value: string[]
  onChange: (lines: string[]) => void
  readOnly: boolean
  error?: string | undefined
}) {
  const [text, setText] = useState(value.join('\n'))
  const [seen, setSeen] = useState(value.join('\n'))
  if (value.join('\n') !== seen) {
    setSeen(value.join('\n'))
    const typed = text
      .split('\n')
      .map((l) => l.trim())
      .filter(Boolean)
      .join('\n')
    if (typed !== value.join('\n')) setText(value.join('\n'))
  }
  return (
    <Field label={label} error={error}>
      {(ids) => (
        <textarea
          {...ids}
          rows={Math.max(2, value.length + 1)}
          readOnly={readOnly}
          value={text}
          onChange={(e) => {
            setText(e.target.value)
            onChange(
              e.target.value
                .split('\n')
                .map((l) => l.trim())
                .filter(Boolean),
            )
          }}
          className={`${inputLook} font-child text-lg`}
        />
      )}
    </Field>
  )
}
