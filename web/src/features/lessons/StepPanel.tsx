import { useState } from 'react'
import type { LessonView, Step } from '../../api/client'
import { useVocabulary } from '../../api/shared'
import { useKept } from '../../api/useKept'
import { Button, Input, inputLook, Notice } from '../../ui/parts'
import { clock } from '../../ui/clock'
import type { Edit } from './api'
import { Beside } from './Beside'
import { ItemCard } from './ItemCard'

type Props = { step: Step; view: LessonView; disabled: boolean; edit: (e: Edit, done?: () => void) => void }

type Words = { adult: string; class: string }

const lines = (text: string) =>
  text
    .split('\n')
    .map((l) => l.trim())
    .filter(Boolean)

/** The lanes of a step, as in a score: what the adult says, what the class does, what is on the table, what is shown. */
export function StepPanel({ step, view, disabled, edit }: Props) {
  // Half-typed words outlive leaving the page.
  const kept = useKept<Words | null>(`words ${view.lesson_id} ${step.id}`, null)
  const { value: writing, set: setWriting } = kept
  const lanes: [string, string[]][] = [
    ['Adult', step.adult],
    ['Class', step.class],
    ['On the table', step.table],
    ['Care', step.cautions],
  ]
  return (
    <section
      aria-label={`Step ${step.name}`}
      className="flex flex-col gap-3 rounded-lg border-2 border-line bg-sheet p-4"
    >
      <h2 className="flex items-baseline gap-3 font-child text-2xl font-bold">
        {step.name} <span className="text-base font-normal tabular-nums">{clock(step.seconds)}</span>{' '}
        {step.pace !== undefined && Math.abs(step.pace - 1) > 0.02 && (
          <span className="text-sm font-normal">
            learned: this class takes {Math.round(step.pace * 100)} % of the usual time
          </span>
        )}
        {step.edited && <span className="text-sm font-normal">in your words</span>}
      </h2>
      {writing ? (
        <div className="flex flex-col gap-2">
          {(['adult', 'class'] as const).map((who) => (
            <label key={who} className="flex flex-col text-sm font-bold">
              {who === 'adult' ? 'What the adult says and does, a line each' : 'What the class does'}
              <textarea
                rows={who === 'adult' ? 6 : 2}
                value={writing[who]}
                onChange={(e) => setWriting({ ...writing, [who]: e.target.value })}
                className={`${inputLook} font-normal`}
              />
            </label>
          ))}
          <span className="flex gap-2">
            <Button
              look="main"
              disabled={disabled}
              onClick={() => {
                // Kept until the server has them.
                edit(
                  { do: 'text', step: step.id, adult: lines(writing.adult), class: lines(writing.class) },
                  kept.settle,
                )
              }}
            >
              Keep these words
            </Button>
            <Button onClick={() => kept.settle()}>Leave it as it was</Button>
          </span>
        </div>
      ) : (
        <>
          <dl className="flex flex-col gap-2">
            {lanes.map(([name, texts]) =>
              texts.length ? (
                <div key={name} className="grid border-l-4 sm:grid-cols-[6.5rem_1fr] border-ink/60 pl-3">
                  <dt className="text-sm font-bold">{name}</dt>
                  <dd className="flex flex-col gap-1">
                    {texts.map((l) => (
                      <p key={l}>{l}</p>
                    ))}
                  </dd>
                </div>
              ) : null,
            )}
          </dl>
          <span className="flex gap-2">
            <Button
              disabled={disabled}
              onClick={() => setWriting({ adult: step.adult.join('\n'), class: step.class.join('\n') })}
            >
              Write it in our words
            </Button>
            {step.edited && (
              <Button disabled={disabled} onClick={() => edit({ do: 'text', step: step.id, adult: [], class: [] })}>
                By rule again
              </Button>
            )}
          </span>
        </>
      )}
      <Beside step={step} view={view} />
      {step.deck?.length ? <Deck step={step} view={view} /> : <Items {...{ step, view, disabled, edit }} />}
    </section>
  )
}

/** The shows of a drill in their order. */
function Deck({ step, view }: { step: Step; view: LessonView }) {
  return (
    <ol className="flex flex-wrap gap-1" aria-label="In this order">
      {step.deck?.map((s, i) => (
        <li
          key={i}
          title={step.items[i]?.because.text}
          className={`rounded border border-ink px-1.5 font-child text-lg ${s.side === 'picture' ? 'bg-marigold/40' : 'bg-paper'} ${view.lesson.targets.includes(s.card_id) ? 'border-2 font-bold' : ''}`}
        >
          {view.lesson.cards[s.card_id]?.pair.grapheme}
          {s.side === 'picture' && <span className="font-sans text-xs"> picture</span>}
        </li>
      ))}
    </ol>
  )
}

function Items({ step, view, disabled, edit }: Props) {
  const kind = useVocabulary().data?.steps.find((k) => k.kind === step.kind)
  const [text, setText] = useState('')
  const takes = kind?.takes[0]
  const add = () => {
    edit({ do: 'send', step: step.id, values: takes === 'word' ? text.split(/[\s,]+/) : [text], add: true })
    setText('')
  }
  return (
    <>
      <ul className="flex flex-col gap-1">
        {step.items.map((c, i) => (
          <ItemCard
            key={c.slot}
            item={c}
            at={i}
            last={i === step.items.length - 1}
            lesson={view.lesson}
            disabled={disabled}
            onSwap={() => edit({ do: 'swap', slot: c.slot })}
            onLock={() => edit({ do: 'lock', slot: c.slot, locked: !c.locked })}
            onRemove={() => edit({ do: 'remove', slot: c.slot })}
            contrast={step.kind === 'contrast'}
            spoken={kind?.offers.includes('voices') ?? false}
            onVoice={(voice) => edit({ do: 'voice', slot: c.slot, voice })}
            onClue={(clue) => edit({ do: 'clue', word: c.value, clue })}
            onMove={(to) => edit({ do: 'move', slot: c.slot, to })}
            onDropHere={(slot) => {
              if (slot && slot !== c.slot) edit({ do: 'move', slot, to: i })
            }}
          />
        ))}
      </ul>
      {takes && !disabled && (
        <form
          className="flex items-center gap-2"
          onSubmit={(e) => {
            e.preventDefault()
            if (text.trim()) add()
          }}
        >
          <Input
            aria-label={`Add a ${takes} to ${step.name}`}
            placeholder={`your own ${takes}${takes === 'word' ? 's' : ''}`}
            value={text}
            maxLength={400}
            onChange={(e) => setText(e.target.value)}
          />
          <Button type="submit">Add</Button>
        </form>
      )}
      {step.items.length === 0 && !takes && kind && <Notice>{kind.about}</Notice>}
    </>
  )
}
