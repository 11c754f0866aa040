import { Link, useParams } from '@tanstack/react-router'
import { useState } from 'react'
import type { Introduction, Step } from '../../api/client'
import { mayI, useMe } from '../../api/shared'
import { Letter, isGroup } from '../../ui/Letter'
import { Button, Failed, Inline, Notice, Waiting } from '../../ui/parts'
import { Shape } from '../../ui/Shape'
import { useEdit, useIntroduction } from './api'
import { ChoiceCard } from './ChoiceCard'
import { PrintMenu } from './PrintMenu'
import { clock } from '../../ui/clock'
import { measures, summary } from './model'

export function ScorePage() {
  const { introductionId } = useParams({ from: '/introductions/$introductionId' })
  const intro = useIntroduction(introductionId)
  if (intro.error && !intro.data) return <Failed error={intro.error} />
  if (!intro.data) return <Waiting what="Opening the introduction …" />
  return <Score intro={intro.data} />
}

function Score({ intro }: { intro: Introduction }) {
  const me = useMe()
  const edit = useEdit(intro.introduction_id)
  const [open, setOpen] = useState<string>()
  const lesson = intro.lesson
  const { bars, end, over } = measures(lesson)
  const mayTeach = mayI(me.data?.rights, 'teach')
  const kind = lesson.pair.grapheme.length > 1 ? 'group' : 'letter'
  return (
    <div className="mx-auto flex max-w-[1400px] flex-col gap-4 p-5">
      <div className="flex flex-wrap items-center gap-5">
        <Letter
          drawn={lesson.writing}
          grapheme={lesson.pair.grapheme}
          group={isGroup(kind) && !lesson.pair.grapheme.includes('-')}
          className="h-24"
        />
        <div className="min-w-0 flex-1">
          <h1 className="font-child text-3xl font-bold">
            {lesson.pair.grapheme}{' '}
            {lesson.keyword && <span className="text-2xl font-normal">as in {lesson.keyword}</span>}
          </h1>
          <p className="flex flex-wrap items-center gap-1 text-lg">
            for <b>{intro.class_name}</b>,{' '}
            <label className="sr-only" htmlFor="minutes">
              Minutes
            </label>
            <Inline
              id="minutes"
              value={lesson.minutes}
              disabled={!mayTeach || edit.isPending}
              onChange={(e) =>
                edit.mutate({ call: 'renew', revision: intro.revision, minutes: Number(e.target.value) })
              }
            >
              {[...new Set([10, 12, 15, 20, 25, 30, 35, 40, lesson.minutes])]
                .sort((a, b) => a - b)
                .map((m) => (
                  <option key={m} value={m}>
                    {m} minutes
                  </option>
                ))}
            </Inline>{' '}
            planned {clock(lesson.seconds)}
          </p>
        </div>
        <Link
          to="/teach/$introductionId"
          params={{ introductionId: intro.introduction_id }}
          className="inline-flex min-h-14 items-center rounded-lg bg-slate px-8 text-xl font-bold text-chalk"
        >
          Teach
        </Link>
        <PrintMenu introductionId={intro.introduction_id} />
        <Button
          disabled={!mayTeach || edit.isPending}
          onClick={() => edit.mutate({ call: 'renew', revision: intro.revision, minutes: lesson.minutes })}
          title="Takes the cards and the class’s log as they are now; locked choices stay"
        >
          Renew
        </Button>
      </div>
      {intro.card_changed && (
        <Notice>
          The card has changed since this was made. “Renew” takes the new version; until then it stays as it is.
        </Notice>
      )}
      {edit.error && <Notice kind="wrong">{edit.error.message}</Notice>}
      {lesson.notes.map((n) => (
        <Notice key={n} kind="care">
          {n}
        </Notice>
      ))}
      <div
        role="group"
        aria-label={`The score: ${bars.length} steps in ${clock(lesson.seconds)}`}
        className="relative mt-5 flex h-40 w-full items-stretch border-y-2 border-ink bg-[repeating-linear-gradient(0deg,transparent_0_24px,var(--color-line)_24px_25px)]"
      >
        {bars.map(({ step, from, share }) => (
          <button
            key={step.kind}
            type="button"
            onClick={() => setOpen(open === step.kind ? undefined : step.kind)}
            aria-expanded={open === step.kind}
            title={`${step.name}, from ${clock(from)}, ${clock(step.seconds)}`}
            style={{ width: `${share * 100}%` }}
            className={`flex min-w-0 flex-col items-center justify-between border-r-2 border-ink/70 py-1 ${open === step.kind ? 'bg-marigold/50' : 'bg-paper/70 hover:bg-marigold/25'}`}
          >
            <Shape family={step.family} className="size-5 shrink-0" />
            <span className="rotate-180 truncate text-sm font-bold [writing-mode:vertical-rl]">{step.name}</span>
            <span className="text-sm tabular-nums">{clock(step.seconds)}</span>
          </button>
        ))}
        <span
          aria-hidden
          className="absolute inset-y-0 w-2 border-x-2 border-ink"
          style={{ left: `calc(${end * 100}% - 8px)` }}
        />
        {over > 0 && (
          <span className="absolute -top-6 right-0 rounded bg-coral px-2 text-sm font-bold">
            runs {clock(over)} over
          </span>
        )}
      </div>
      <ol className="flex flex-col">
        {bars.map(({ step, from }) => (
          <li key={step.kind} className="border-b border-line">
            <button
              type="button"
              aria-expanded={open === step.kind}
              onClick={() => setOpen(open === step.kind ? undefined : step.kind)}
              className={`grid min-h-11 w-full grid-cols-[4rem_2rem_9rem_1fr] items-center gap-2 px-1 text-left ${open === step.kind ? 'bg-marigold/30' : 'hover:bg-marigold/15'}`}
            >
              <span className="tabular-nums text-soft">{clock(from)}</span>
              <Shape family={step.family} />
              <b>{step.name}</b>
              <span className="truncate">{summary(step, lesson)}</span>
            </button>
            {open === step.kind && (
              <Lanes
                step={step}
                intro={intro}
                disabled={!mayTeach || edit.isPending}
                onSwap={(slot) => edit.mutate({ call: 'swap', revision: intro.revision, slot })}
                onLock={(slot, locked) => edit.mutate({ call: 'lock', revision: intro.revision, slot, locked })}
              />
            )}
          </li>
        ))}
      </ol>
      {lesson.dropped.length > 0 && (
        <div className="text-sm text-soft">
          <b>Left out:</b>
          <ul className="list-disc pl-5">
            {lesson.dropped.map((d) => (
              <li key={d}>{d}</li>
            ))}
          </ul>
        </div>
      )}
    </div>
  )
}

type LaneProps = {
  step: Step
  intro: Introduction
  disabled: boolean
  onSwap: (slot: string) => void
  onLock: (slot: string, locked: boolean) => void
}

/**
 * The lanes of a step, as in a score: what the adult says, what the class does, what is on the table, what is shown.
 */
function Lanes({ step, intro, disabled, onSwap, onLock }: LaneProps) {
  const lanes: [string, string[] | null][] = [
    ['Adult', step.adult],
    ['Class', step.class],
    ['On the table', step.table],
    ['Care', step.cautions],
  ]
  return (
    <div className="grid gap-x-6 gap-y-3 bg-sheet px-4 py-3 lg:grid-cols-2">
      <dl className="flex flex-col gap-2">
        {lanes.map(([name, lines]) =>
          lines?.length ? (
            <div key={name} className="grid grid-cols-[6.5rem_1fr] border-l-4 border-ink/60 pl-3">
              <dt className="text-sm font-bold">{name}</dt>
              <dd className="flex flex-col gap-1">
                {lines.map((l) => (
                  <p key={l}>{l}</p>
                ))}
              </dd>
            </div>
          ) : null,
        )}
        {(step.deck ?? []).length > 0 && step.kind !== 'warm-up' && (
          <div className="grid grid-cols-[6.5rem_1fr] border-l-4 border-ink/60 pl-3">
            <dt className="text-sm font-bold">Order</dt>
            <dd className="flex flex-wrap gap-1">
              {step.deck?.map((s, i) => (
                <span
                  key={i}
                  className={`rounded border border-ink px-1.5 text-sm ${s.side === 'picture' ? 'bg-marigold/40' : 'bg-paper'}`}
                >
                  {intro.lesson.cards[s.card_id]?.pair.grapheme} {s.side === 'picture' ? 'picture' : 'letter'}
                </span>
              ))}
            </dd>
          </div>
        )}
      </dl>
      <ul className="flex flex-col gap-2">
        {step.choices.map((c) => (
          <ChoiceCard
            key={c.slot}
            choice={c}
            lesson={intro.lesson}
            disabled={disabled}
            onSwap={() => onSwap(c.slot)}
            onLock={() => onLock(c.slot, !c.locked)}
          />
        ))}
      </ul>
    </div>
  )
}
