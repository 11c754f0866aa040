import { Dialog } from 'radix-ui'
import { useState } from 'react'
import { Button, Field, Input, LinkButton, Check } from '../../ui/parts'

/** Any letters and words on paper: to write over, to copy, to ring a spelling in. */
export function PracticeSheet({ text: first }: { text: string }) {
  const [text, setText] = useState(first)
  const [trace, setTrace] = useState(true)
  const [copy, setCopy] = useState(false)
  const [ring, setRing] = useState('')
  const list = text.split(/[\s,]+/).filter(Boolean)
  const doing = [trace && 'trace', copy && 'copy'].filter(Boolean).join(',')
  const query = new URLSearchParams({ text: list.join(' '), do: doing, ...(ring.trim() && { ring: ring.trim() }) })
  const ready = list.length > 0 && list.length <= 24 && (doing !== '' || ring.trim() !== '')
  return (
    <Dialog.Root onOpenChange={(open) => open && setText(first)}>
      <Dialog.Trigger asChild>
        <Button>Practice sheet …</Button>
      </Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-slate/60" />
        <Dialog.Content className="fixed top-1/2 left-1/2 z-50 flex max-h-[95dvh] w-full max-w-xl -translate-x-1/2 -translate-y-1/2 flex-col gap-4 overflow-y-auto rounded-xl bg-paper p-6 shadow-2xl">
          <Dialog.Title className="writing-line font-child text-3xl font-bold">A practice sheet</Dialog.Title>
          <Dialog.Description className="sr-only">What stands on it and what is done with it</Dialog.Description>
          <Field
            label="Letters or words"
            hint="With a space between them, 24 at the most: c a d, or rain sail."
            error={list.length > 24 ? `These are ${list.length}; 24 go on one sheet.` : undefined}
          >
            {(ids) => (
              <Input
                {...ids}
                value={text}
                maxLength={400}
                onChange={(e) => setText(e.target.value)}
                className="font-child text-xl!"
              />
            )}
          </Field>
          <fieldset className="flex flex-wrap gap-x-6">
            <legend className="text-sm font-bold">What children do</legend>
            <Tick checked={trace} onChange={setTrace}>
              write over the dots
            </Tick>
            <Tick checked={copy} onChange={setCopy}>
              read, cover and write
            </Tick>
          </fieldset>
          <Field label="A spelling to ring in them" hint="ai, sh, a-e; empty for none.">
            {(ids) => (
              <Input
                {...ids}
                value={ring}
                maxLength={10}
                onChange={(e) => setRing(e.target.value)}
                className="max-w-40 font-child text-xl!"
              />
            )}
          </Field>
          <div className="flex flex-wrap gap-3">
            {ready ? (
              <LinkButton look="main" href={`/api/practice.pdf?${query.toString()}`} target="_blank">
                Print it
              </LinkButton>
            ) : (
              <Button look="main" disabled>
                Print it
              </Button>
            )}
            <Dialog.Close asChild>
              <Button>Close</Button>
            </Dialog.Close>
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  )
}

function Tick(props: { checked: boolean; onChange: (v: boolean) => void; children: string }) {
  return (
    <Check className="text-lg" checked={props.checked} onChange={(e) => props.onChange(e.target.checked)}>
      {props.children}
    </Check>
  )
}
