import { Modal, ModalClose } from '../../ui/Modal'
import { useState } from 'react'
import type { WallCard } from '../../api/client'
import { Button, FileButton, Notice, Select } from '../../ui/parts'
import { useReadTable, type Table } from './api'

type Props = { cards: ReadonlyMap<string, WallCard>; onTake: (order: string[]) => void; onClose: () => void }

const maxBytes = 400_000

const columns: { key: keyof Table['taken']; name: string }[] = [
  { key: 'grapheme', name: 'Letters stand in' },
  { key: 'sound', name: 'Sounds stand in' },
  { key: 'step', name: 'The place stands in' },
]

/** An order out of a table: which column is what, what each line names, and what would come of it. */
export default function TableDialog({ cards, onTake, onClose }: Props) {
  const read = useReadTable()
  const [text, setText] = useState('')
  const [wrong, setWrong] = useState('')
  const found = read.data
  const problems = found?.rows.filter((r) => r.problem) ?? []
  const good = found?.rows.filter((r) => r.card_id) ?? []
  const ask = (t: string, c: Table['taken']) => read.mutate({ text: t, columns: c })
  return (
    <Modal
      title="An order from a table"
      about="A file with a line for each step (CSV): letters, and a sound where they have several. You see what it comes to before anything changes."
      onClose={onClose}
    >
      <FileButton
        aria-label="Choose a file with the order"
        accept=".csv,.tsv,.txt,text/csv"
        className="self-start"
        onFile={(file) => {
          setWrong(file.size > maxBytes ? 'The table is larger than 400 kB.' : '')
          if (file.size > maxBytes) return
          void file.text().then((t) => {
            setText(t)
            ask(t, { grapheme: '', sound: '', step: '' })
          })
        }}
      >
        {text ? 'Choose another file' : 'Choose a file'}
      </FileButton>
      {(wrong || read.error) && <Notice kind="wrong">{wrong || read.error?.message}</Notice>}
      {found && (
        <>
          <div className="flex flex-wrap gap-x-4 gap-y-2">
            {columns.map((c) => (
              <label key={c.key} className="flex items-center gap-2">
                {c.name}
                <Select
                  value={found.taken[c.key]}
                  onChange={(e) => ask(text, { ...found.taken, [c.key]: e.target.value })}
                >
                  <option value="">{c.key === 'grapheme' ? 'choose a column' : 'none'}</option>
                  {found.columns.filter(Boolean).map((name) => (
                    <option key={name}>{name}</option>
                  ))}
                </Select>
              </label>
            ))}
          </div>
          {!found.taken.grapheme && <Notice kind="care">Say in which column the letters stand.</Notice>}
          {found.taken.grapheme && (
            <p>
              <b>{good.length}</b> lines name a card{problems.length > 0 && `, ${problems.length} do not`}
              {found.unnamed.length > 0 &&
                `; ${found.unnamed.length} cards of the library are not in it and come after the others`}
              .
            </p>
          )}
          {problems.length > 0 && (
            <ul tabIndex={0} className="max-h-40 overflow-y-auto text-sm">
              {problems.map((r) => (
                <li key={r.line} className="border-b border-line py-1">
                  <b>line {r.line}</b>, {r.grapheme}
                  {r.sound && ` /${r.sound}/`}: {r.problem}
                </li>
              ))}
            </ul>
          )}
          {good.length > 0 && (
            <p
              tabIndex={0}
              className="max-h-32 overflow-y-auto font-child text-xl"
              aria-label="The order that comes of it"
            >
              {found.order.map((id) => cards.get(id)?.pair.grapheme).join('  ')}
            </p>
          )}
        </>
      )}
      <div className="flex justify-end gap-3">
        <ModalClose>
          <Button>Leave it</Button>
        </ModalClose>
        <Button
          look="main"
          disabled={!found || good.length === 0 || read.isPending}
          onClick={() => {
            if (found) onTake(found.order)
            onClose()
          }}
        >
          Look at this order
        </Button>
      </div>
    </Modal>
  )
}
