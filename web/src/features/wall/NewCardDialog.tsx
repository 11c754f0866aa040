import { Modal, ModalClose } from '../../ui/Modal'
import { useNavigate } from '@tanstack/react-router'
import { useDeferredValue, useState } from 'react'
import { CallError } from '../../api/client'
import { useSpellings } from '../../api/shared'
import { Button, Field, Input } from '../../ui/parts'
import { useAddCard } from './api'

export default function NewCardDialog({ nextStep }: { nextStep: number }) {
  const [letters, setLetters] = useState('')
  const [picked, setPicked] = useState('')
  const asked = useDeferredValue(letters.trim().toLowerCase())
  const found = useSpellings(asked).data ?? []
  const sounds = asked ? found.filter((r) => r.grapheme === asked) : []
  const sound = sounds.some((r) => r.sound === picked) ? picked : sounds[0]?.sound
  const pair = sound ? `${asked}=${sound}` : letters.trim()
  const [step, setStep] = useState<number>()
  const go = useNavigate()
  const add = useAddCard()
  const wrong = (field: string) =>
    add.error instanceof CallError && (add.error.problem.field ?? 'pair') === field ? add.error.message : undefined
  return (
    <Modal
      title="A new card"
      about="The letters first; where they have more than one sound, pick it by a word."
      width="max-w-md"
      trigger={<Button>Add a card</Button>}
    >
      <form
        className="mt-4 flex flex-col gap-4"
        onSubmit={(e) => {
          e.preventDefault()
          add.mutate(
            { pair, step: step ?? nextStep },
            { onSuccess: ({ id }) => void go({ to: '/cards/$cardId', params: { cardId: id } }) },
          )
        }}
      >
        <Field label="Letters" hint="such as sh, igh, a-e" error={wrong('pair')}>
          {(ids) => (
            <Input
              {...ids}
              required
              value={letters}
              maxLength={12}
              className="font-child"
              onChange={(e) => setLetters(e.target.value)}
            />
          )}
        </Field>
        {sounds.length > 0 && (
          <fieldset className="flex max-h-64 flex-col gap-1 overflow-y-auto">
            <legend className="text-sm font-bold">Its sound</legend>
            {sounds.map((r) => (
              <label key={r.sound} className="flex min-h-11 items-center gap-3 rounded-md px-2 hover:bg-marigold/20">
                <input
                  type="radio"
                  name="sound"
                  checked={r.sound === sound}
                  onChange={() => setPicked(r.sound)}
                  className="size-6 shrink-0 accent-slate"
                />
                <span className="flex-1">
                  as in <b className="font-child text-xl">{r.examples.join(', ') || `/${r.sound}/`}</b>
                </span>
                <span className="text-sm text-soft">
                  {r.step > 0 ? `step ${r.step} already` : r.rare ? 'rare' : `${Math.round(r.weighted * 100)} %`}
                </span>
              </label>
            ))}
          </fieldset>
        )}
        <Field label="Place in the order" error={wrong('step')}>
          {(ids) => (
            <Input
              {...ids}
              type="number"
              min={1}
              value={step ?? nextStep}
              onChange={(e) => setStep(e.target.valueAsNumber)}
            />
          )}
        </Field>
        <div className="flex justify-end gap-3">
          <ModalClose>
            <Button>Leave it</Button>
          </ModalClose>
          <Button type="submit" look="main" disabled={add.isPending}>
            Add the card
          </Button>
        </div>
      </form>
    </Modal>
  )
}
