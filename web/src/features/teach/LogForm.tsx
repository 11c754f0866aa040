import { Link } from '@tanstack/react-router'
import { useState } from 'react'
import type { Introduction } from '../../api/client'
import { Button, Heading, Notice } from '../../ui/parts'
import { useLog } from './api'

const levels = ['not yet', 'shaky', 'sure', 'secure']

/** After the lesson: how sure the class was of the new card and of the warm-up. For the class, never for a child. */
export function LogForm({
  intro,
  seconds,
  reached,
  onBack,
}: {
  intro: Introduction
  seconds: number
  reached: string
  onBack: () => void
}) {
  const lesson = intro.lesson
  const warm = lesson.steps.find((s) => s.kind === 'warm-up')?.choices.map((c) => c.value) ?? []
  const ids = [lesson.card_id, ...warm.filter((id) => id !== lesson.card_id)]
  const [sure, setSure] = useState<Record<string, number>>({ [lesson.card_id]: 2 })
  const { log, kept } = useLog(intro.introduction_id)
  return (
    <main className="mx-auto flex min-h-screen max-w-3xl flex-col gap-6 p-8">
      <Heading>How did it go?</Heading>
      <p className="text-lg">
        {intro.class_name}, {lesson.pair.grapheme}: {Math.round(seconds / 60)} of {lesson.minutes} minutes. Say how sure
        the class was; a card left open is not logged.
      </p>
      <ul className="flex flex-col gap-2">
        {ids.map((id) => (
          <li key={id} className="flex flex-wrap items-center gap-3 border-b border-line pb-2">
            <span className="w-24 font-child text-4xl">{lesson.cards[id]?.pair.grapheme}</span>
            {id === lesson.card_id && <span className="rounded bg-marigold px-2 font-bold">new</span>}
            <div
              role="radiogroup"
              aria-label={`How sure of ${lesson.cards[id]?.pair.grapheme ?? ''}`}
              className="ml-auto flex gap-1"
            >
              {levels.map((name, level) => (
                <button
                  key={name}
                  type="button"
                  role="radio"
                  aria-checked={sure[id] === level}
                  onClick={() => setSure({ ...sure, [id]: level })}
                  className={`min-h-11 rounded-lg border-2 px-4 font-bold ${sure[id] === level ? 'border-ink bg-slate text-chalk' : 'border-line bg-sheet'}`}
                >
                  {sure[id] === level ? '● ' : '○ '}
                  {name}
                </button>
              ))}
            </div>
          </li>
        ))}
      </ul>
      {log.isSuccess && <Notice kind="good">Logged. The warm-up of the next lesson is chosen from it.</Notice>}
      {kept && (
        <Notice kind="care">
          There is no line to the school’s server. The log is kept on this machine and sent when the line is back.
        </Notice>
      )}
      {log.error && !kept && <Notice kind="wrong">{log.error.message}</Notice>}
      <div className="flex flex-wrap gap-3">
        {!log.isSuccess && (
          <Button
            look="main"
            disabled={log.isPending}
            onClick={() =>
              log.mutate({ reached, sure: Object.entries(sure).map(([card_id, s]) => ({ card_id, sure: s })) })
            }
          >
            Log it for the class
          </Button>
        )}
        <Button onClick={onBack}>Back to the lesson</Button>
        <Link
          to="/introductions"
          className="inline-flex min-h-11 items-center px-4 font-bold underline underline-offset-4"
        >
          {log.isSuccess ? 'Done' : 'Leave without a log'}
        </Link>
      </div>
    </main>
  )
}
