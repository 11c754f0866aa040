import { Link } from '@tanstack/react-router'
import { useState } from 'react'
import { useRecent, useSendToIntroduction, type SendStep } from '../api/shared'
import { Button, Inline, Notice } from './parts'

type Props = { className: string; values: string[]; steps: [SendStep, string][] }

/**
 * "Send to the introduction of *sh*, step *Read*": only introductions of this class that have not been taught are
 * offered.
 */
export function SendTo({ className, values, steps }: Props) {
  const recent = useRecent()
  const open = (recent.data ?? []).filter((r) => r.class_name === className && !r.taught)
  const [chosen, setChosen] = useState('')
  const [step, setStep] = useState<SendStep>(steps[0]?.[0] ?? 'read')
  const send = useSendToIntroduction()
  const id = open.find((r) => r.introduction_id === chosen)?.introduction_id ?? open[0]?.introduction_id ?? ''
  if (recent.data && open.length === 0)
    return (
      <span className="text-sm">
        {className || 'This class'} has no open introduction.{' '}
        <Link to="/introductions" className="font-bold underline underline-offset-4">
          Assemble one
        </Link>{' '}
        to send words into it.
      </span>
    )
  return (
    <span className="flex flex-wrap items-center gap-2">
      <label className="flex items-center gap-1">
        into the introduction of
        <Inline aria-label="Introduction" value={id} onChange={(e) => setChosen(e.target.value)}>
          {open.map((r) => (
            <option key={r.introduction_id} value={r.introduction_id}>
              {r.grapheme}, {new Date(r.created_at).toLocaleDateString('en-GB', { day: 'numeric', month: 'short' })},{' '}
              {r.minutes} min
            </option>
          ))}
        </Inline>
      </label>
      {steps.length > 1 && (
        <Inline aria-label="Step" value={step} onChange={(e) => setStep(e.target.value as SendStep)}>
          {steps.map(([kind, name]) => (
            <option key={kind} value={kind}>
              {name}
            </option>
          ))}
        </Inline>
      )}
      <Button
        look="main"
        disabled={values.length === 0 || send.isPending}
        onClick={() => send.mutate({ id, step, values })}
      >
        Send
      </Button>
      {send.error && <Notice kind="wrong">{send.error.message}</Notice>}
      {send.isSuccess && (
        <span role="status" className="font-bold text-leaf">
          ✓ sent.{' '}
          <Link
            to="/introductions/$introductionId"
            params={{ introductionId: id }}
            className="underline underline-offset-4"
          >
            Open it
          </Link>
        </span>
      )}
    </span>
  )
}
