import { useNavigate } from '@tanstack/react-router'
import { Dialog } from 'radix-ui'
import { useState } from 'react'
import { CallError } from '../../api/client'
import { Button, Field, Input } from '../../ui/parts'
import { useAddCard } from './api'

export default function NewCardDialog({ nextStep }: { nextStep: number }) {
  const [pair, setPair] = useState('')
  const [step, setStep] = useState<number>()
  const go = useNavigate()
  const add = useAddCard()
  const wrong = (field: string) =>
    add.error instanceof CallError && (add.error.problem.field ?? 'pair') === field ? add.error.message : undefined
  return (
    <Dialog.Root>
      <Dialog.Trigger asChild>
        <Button>Add a card</Button>
      </Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-20 bg-slate/60" />
        <Dialog.Content className="fixed top-1/2 left-1/2 z-30 w-full max-w-md -translate-x-1/2 -translate-y-1/2 rounded-xl bg-paper p-6 shadow-2xl">
          <Dialog.Title className="writing-line font-child text-3xl font-bold">A new card</Dialog.Title>
          <Dialog.Description className="mt-2 text-sm">
            A grapheme, with its sound where there is more than one: oo=uː, th=ð, a-e.
          </Dialog.Description>
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
            <Field label="Grapheme" error={wrong('pair')}>
              {(ids) => (
                <Input
                  {...ids}
                  required
                  value={pair}
                  maxLength={40}
                  className="font-child"
                  onChange={(e) => setPair(e.target.value)}
                />
              )}
            </Field>
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
              <Dialog.Close asChild>
                <Button>Leave it</Button>
              </Dialog.Close>
              <Button type="submit" look="main" disabled={add.isPending}>
                Add the card
              </Button>
            </div>
          </form>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  )
}
