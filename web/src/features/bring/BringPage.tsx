import { Link, useNavigate } from '@tanstack/react-router'
import { useState } from 'react'
import { callThen, mayI, useClasses, useMe } from '../../api/shared'
import { JobButton } from '../../ui/jobs/JobButton'
import { Button, Failed, FileButton, Heading, LinkButton, Notice } from '../../ui/parts'
import { useBring, useDrop, useParcels, type Parcel } from './api'

/** What comes into the library from elsewhere, and what goes out of it. */
export function BringPage() {
  const me = useMe()
  const may = mayI(me.data?.rights, 'edit')
  return (
    <div className="mx-auto grid max-w-6xl gap-10 p-4 sm:p-6 lg:grid-cols-2">
      {may && (
        <section className="flex flex-col gap-4">
          <Heading>Bring in</Heading>
          <Drop />
          <Lying />
        </section>
      )}
      <section className="flex flex-col gap-4">
        <Heading>Take out</Heading>
        <Out />
      </section>
    </div>
  )
}

const most = 128 * 1024 * 1024

function Drop() {
  const bring = useBring()
  const go = useNavigate()
  const [over, setOver] = useState(false)
  const [wrong, setWrong] = useState('')
  const take = (file?: File) => {
    if (!file || bring.isPending) return
    setWrong(file.size > most ? 'The file is larger than 128 MB.' : '')
    if (file.size <= most)
      callThen(bring, file, (p) => go({ to: '/bring/$parcelId', params: { parcelId: p.parcel_id } }))
  }
  return (
    <>
      <div
        className={`flex flex-col items-start gap-3 rounded-xl border-2 border-dashed p-6 ${over ? 'border-leaf bg-mint/30' : 'border-slate/50'}`}
        onDragOver={(e) => {
          e.preventDefault()
          setOver(true)
        }}
        onDragLeave={() => setOver(false)}
        onDrop={(e) => {
          e.preventDefault()
          setOver(false)
          take(e.dataTransfer.files[0])
        }}
      >
        <p className="text-lg">
          A table of yours with words, sentences, whole cards or an order (XLSX, CSV), or another team’s library (ZIP).
        </p>
        <FileButton
          look="main"
          aria-label="Choose a file: a table or a bundle"
          accept=".csv,.tsv,.txt,.xlsx,.zip"
          disabled={bring.isPending}
          onFile={take}
        >
          {bring.isPending ? 'Unpacking it …' : 'Choose a file'}
        </FileButton>
        <p className="text-soft">Or drop it here. You see what it comes to before anything changes.</p>
      </div>
      {(wrong || bring.error) && <Notice kind="wrong">{wrong || bring.error?.message}</Notice>}
    </>
  )
}

const kindNames: Record<Parcel['kind'], string> = { bundle: 'a library', table: 'a table' }

function Lying() {
  const list = useParcels()
  const drop = useDrop()
  if (list.error && !list.data) return <Failed error={list.error} />
  if (!list.data?.length) return null
  return (
    <div>
      <Heading level={2}>Lies here, not taken yet</Heading>
      <ul className="divide-y divide-line">
        {list.data.map((p) => (
          <li key={p.parcel_id} className="flex flex-wrap items-center gap-3 py-2">
            <Link
              to="/bring/$parcelId"
              params={{ parcelId: p.parcel_id }}
              className="min-h-11 min-w-48 flex-1 content-center text-lg font-bold underline decoration-2 underline-offset-4"
            >
              {p.name || 'a file without a name'}
              <span className="block text-base font-normal text-soft">
                {kindNames[p.kind]}, by {p.brought_by || 'somebody'} on {new Date(p.brought_at).toLocaleDateString()}
              </span>
            </Link>
            <Button look="quiet" disabled={drop.isPending} onClick={() => drop.mutate(p.parcel_id)}>
              Put away
            </Button>
          </li>
        ))}
      </ul>
      {drop.error && <Notice kind="wrong">{drop.error.message}</Notice>}
    </div>
  )
}

const tables = [
  { name: 'cards', title: 'Cards' },
  { name: 'words', title: 'Words' },
  { name: 'sentences', title: 'Sentences' },
  { name: 'voices', title: 'Voices' },
]

function Out() {
  const classes = useClasses()
  return (
    <div className="flex flex-col gap-6">
      <Group
        title="The whole library, for another team"
        about="One ZIP of open files: cards, pictures, letters, texts, routines, and the sounds. A voice goes to another school only if its speaker agrees to that."
      >
        <JobButton ask={{ kind: 'bundle' }}>With the voices</JobButton>
        <JobButton ask={{ kind: 'bundle', voiceless: true }}>Without voices</JobButton>
      </Group>
      <Group title="Tables" about="For a spreadsheet. Cards, words and sentences come in again as they went out.">
        <LinkButton href="/api/library.xlsx" download="library.xlsx">
          One workbook (XLSX)
        </LinkButton>
        {tables.map((t) => (
          <LinkButton key={t.name} href={`/api/tables/${t.name}.csv`} download={`${t.name}.csv`}>
            {t.title} (CSV)
          </LinkButton>
        ))}
        <LinkButton href="/api/order.csv" download="order.csv">
          Order (CSV)
        </LinkButton>
        {classes.data?.map((c) => (
          <LinkButton key={c.class_id} href={`/api/classes/${c.class_id}/log.csv`} download="class-log.csv">
            Log of {c.name} (CSV)
          </LinkButton>
        ))}
      </Group>
      <Group
        title="Cards as pictures"
        about="Both sides of each card as PNG and SVG, numbered in the order of teaching: for slides and boards."
      >
        <JobButton ask={{ kind: 'pictures' }}>ZIP of pictures</JobButton>
      </Group>
      <p>
        To print, and for a USB stick:{' '}
        <Link
          to="/team"
          search={{ tab: 'print' }}
          className="inline-block min-h-11 content-center font-bold underline underline-offset-4"
        >
          cards on paper and the carry pack
        </Link>
        .
      </p>
    </div>
  )
}

function Group({ title, about, children }: { title: string; about: string; children: React.ReactNode }) {
  return (
    <section className="flex flex-col gap-2">
      <Heading level={2}>{title}</Heading>
      <p className="max-w-prose">{about}</p>
      <div className="flex flex-wrap gap-3">{children}</div>
    </section>
  )
}
