import { useState } from 'react'
import { faultOf } from '../../api/client'
import { callThen } from '../../api/shared'
import { useKept } from '../../api/useKept'
import { Button, Field, Notice, inputLook } from '../../ui/parts'
import { useRemark } from './api'
import { isWritten, wordingOf, type Card } from './model'

type Props = { card: Card; field: string; parent?: string; onClose: () => void }

/** Says something of a part of a card, or answers; another wording may go with it. */
export function SayForm({ card, field, parent = '', onClose }: Props) {
  const stands = wordingOf(card.view.now.content, field)
  const kept = useKept(`said of ${card.id} ${field} ${parent}`, { body: '', wording: '' })
  const [wording, setWording] = useState(kept.value.wording !== '')
  const send = useRemark(card.id)
  const error = send.error
  const atField = faultOf(error, 'wording') ?? faultOf(error, 'body')
  const say = () =>
    callThen(
      send,
      { field, parent_id: parent, body: kept.value.body, ...(wording ? { wording: kept.value.wording } : {}) },
      () => {
        kept.settle()
        onClose()
      },
    )
  return (
    <form
      className="flex max-w-3xl flex-col gap-3 rounded-lg border-2 border-ink bg-sheet p-3"
      onSubmit={(e) => {
        e.preventDefault()
        say()
      }}
    >
      <Field
        label={parent ? 'Answer' : 'What you think of it'}
        hint={`@ and initials tell somebody: ${card.view.people.map((p) => `@${p.initials} ${p.name}`).join(', ')}`}
        error={faultOf(error, 'body')}
      >
        {(ids) => (
          <textarea
            {...ids}
            autoFocus
            rows={2}
            maxLength={4000}
            value={kept.value.body}
            onChange={(e) => kept.set({ ...kept.value, body: e.target.value })}
            className={inputLook}
          />
        )}
      </Field>
      {wording && (
        <Field label="This wording instead" error={faultOf(error, 'wording')}>
          {(ids) => (
            <textarea
              {...ids}
              rows={Math.max(2, stands.split('\n').length)}
              value={kept.value.wording}
              onChange={(e) => kept.set({ ...kept.value, wording: e.target.value })}
              className={`${inputLook} font-child text-lg`}
            />
          )}
        </Field>
      )}
      {error && !atField && <Notice kind="wrong">{error.message}</Notice>}
      <div className="flex flex-wrap gap-2">
        <Button type="submit" look="main" disabled={send.isPending}>
          {parent ? 'Answer' : 'Say it'}
        </Button>
        {!wording && !parent && isWritten(field) && (
          <Button
            onClick={() => {
              kept.set({ ...kept.value, wording: stands })
              setWording(true)
            }}
          >
            Propose another wording
          </Button>
        )}
        <Button look="quiet" onClick={onClose}>
          Leave it
        </Button>
      </div>
    </form>
  )
}
