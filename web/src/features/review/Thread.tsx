import { useState } from 'react'
import { callThen } from '../../api/shared'
import { Button, Notice, inputLook } from '../../ui/parts'
import { offerUndo } from '../../ui/undo'
import { useRemarkCalls, type Remark } from './api'
import { ago, pieces, withNames, wordingOf, type Card } from './model'
import { SayForm } from './SayForm'

type Props = { card: Card; first: Remark; answers: Remark[] }

/** Something that was said of a part of a card, with its answers; a settled one is folded away. */
export function Thread({ card, first, answers }: Props) {
  const calls = useRemarkCalls(card.id)
  const [answering, setAnswering] = useState(false)
  const error = calls.settle.error ?? calls.take.error ?? calls.drop.error ?? calls.edit.error
  const body = (
    <>
      <Said card={card} remark={first} calls={calls} alone={answers.length === 0} />
      {first.wording !== undefined && <Wording card={card} remark={first} />}
      {answers.map((a) => (
        <div key={a.remark_id} className="ml-6 border-l-4 border-line pl-3">
          <Said card={card} remark={a} calls={calls} alone />
        </div>
      ))}
      {error && <Notice kind="wrong">{error.message}</Notice>}
      <div className="flex flex-wrap gap-x-4">
        {first.wording !== undefined && !first.taken_at && card.mayEdit && (
          <Button
            look="main"
            disabled={calls.take.isPending}
            onClick={() => calls.take.mutate({ remark: first.remark_id, version: card.view.now.version })}
          >
            Take this wording over
          </Button>
        )}
        <Button look="quiet" onClick={() => setAnswering(true)}>
          Answer
        </Button>
        <Button
          look="quiet"
          disabled={calls.settle.isPending}
          onClick={() => {
            const settle = (settled: boolean) => ({ remark: first.remark_id, settled })
            callThen(calls.settle, settle(!first.settled_at), () => {
              if (!first.settled_at) offerUndo('It is settled.', () => calls.settle.mutate(settle(false)))
            })
          }}
        >
          {first.settled_at ? 'Open it again' : 'Settled'}
        </Button>
      </div>
      {answering && (
        <SayForm card={card} field={first.field} parent={first.remark_id} onClose={() => setAnswering(false)} />
      )}
    </>
  )
  if (!first.settled_at) return <div className="flex max-w-3xl flex-col gap-2 rounded-lg bg-sky/15 p-3">{body}</div>
  return (
    <details className="max-w-3xl rounded-lg bg-line/40 p-2">
      <summary className="min-h-11 cursor-pointer content-center">
        ✓ settled by {first.settled_by}
        {first.taken_at && ', the wording was taken over'}: {first.body.slice(0, 60)}
      </summary>
      <div className="flex flex-col gap-2">{body}</div>
    </details>
  )
}

type SaidProps = { card: Card; remark: Remark; calls: ReturnType<typeof useRemarkCalls>; alone: boolean }

function Said({ card, remark, calls, alone }: SaidProps) {
  const [text, setText] = useState<string>()
  const mine = remark.made_id === card.me
  return (
    <div>
      <p className="text-sm text-soft">
        <b className="text-ink">{remark.made_by}</b>, {ago(remark.made_at)}
        {remark.version < card.view.now.version && `, of version ${remark.version}`}
        {remark.edited_at && ', changed since'}
        {mine && text === undefined && (
          <>
            {' '}
            <Button look="quiet" className="px-2 text-sm" onClick={() => setText(remark.body)}>
              change
            </Button>
            {alone && (
              <Button
                look="quiet"
                className="px-2 text-sm"
                disabled={calls.drop.isPending}
                onClick={() => calls.drop.mutate(remark.remark_id)}
              >
                take away
              </Button>
            )}
          </>
        )}
      </p>
      {text === undefined ? (
        <p className="text-lg whitespace-pre-line">
          {withNames(remark.body, card.initials).map((p, i) =>
            p.name ? (
              <b key={i} className="rounded bg-marigold/40 px-1">
                {p.text}
              </b>
            ) : (
              <span key={i}>{p.text}</span>
            ),
          )}
        </p>
      ) : (
        <form
          className="flex flex-wrap gap-2"
          onSubmit={(e) => {
            e.preventDefault()
            callThen(calls.edit, { remark: remark.remark_id, body: text }, () => setText(undefined))
          }}
        >
          <textarea
            aria-label="What you said"
            rows={2}
            maxLength={4000}
            value={text}
            onChange={(e) => setText(e.target.value)}
            className={inputLook}
          />
          <Button type="submit" disabled={calls.edit.isPending}>
            Change it
          </Button>
          <Button look="quiet" onClick={() => setText(undefined)}>
            Leave it
          </Button>
        </form>
      )}
    </div>
  )
}

/** The wording that is proposed, against what stands. */
function Wording({ card, remark }: { card: Card; remark: Remark }) {
  const stands = wordingOf(card.view.now.content, remark.field)
  return (
    <p className="rounded border-2 border-dashed border-ink bg-sheet p-2 font-child text-lg whitespace-pre-line">
      {remark.taken_at
        ? remark.wording
        : pieces(stands, remark.wording ?? '').map((p, i) =>
            p.kind === 'same' ? (
              <span key={i}>{p.text}</span>
            ) : p.kind === 'new' ? (
              <ins key={i} className="rounded bg-mint/60 font-bold decoration-2 underline-offset-4">
                {p.text}
              </ins>
            ) : (
              <del key={i} className="rounded bg-coral/30 decoration-2">
                {p.text}
              </del>
            ),
          )}
    </p>
  )
}
