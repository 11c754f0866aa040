import { Modal, ModalClose } from '../../ui/Modal'
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
    <Modal
      title="A practice sheet"
      about="What stands on it and what is done with it"
      aboutHidden
      width="max-w-xl"
      trigger={<Button>Practice sheet …</Button>}
      onOpen={() => setText(first)}
    >
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
        <ModalClose>
          <Button>Close</Button>
        </ModalClose>
      </div>
    </Modal>
  )
}

function Tick(props: { checked: boolean; onChange: (v: boolean) => void; children: string }) {
  return (
    <Check className="text-lg" checked={props.checked} onChange={(e) => props.onChange(e.target.checked)}>
      {props.children}
    </Check>
  )
}
