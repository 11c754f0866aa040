import { Veil } from '../../ui/Modal'
import { Dialog } from 'radix-ui'
import { useState } from 'react'
import type { Schemas } from '../../api/client'
import { Field, Input, LinkButton, Notice, Waiting } from '../../ui/parts'
import { useSheets } from './api'

type Sheet = Schemas['RenderSheet']

const uses: [Sheet['use'], string][] = [
  ['teach', 'To teach from'],
  ['table', 'At the table: write, cut, sort'],
  ['read', 'To read'],
  ['room', 'For the room'],
  ['home', 'To take home'],
]

/** What can be printed of a lesson, by what it is for, with its first page; what would be empty is not offered. */
export function PrintMenu({ lessonId, classId, revision }: { lessonId: string; classId: string; revision: number }) {
  const [open, setOpen] = useState(false)
  const sheets = useSheets(lessonId, open)
  const [line, setLine] = useState('')
  const said = (sheet: string) =>
    line && ['home', 'all', 'text'].includes(sheet) ? `?line=${encodeURIComponent(line)}` : ''
  const href = (sheet: string) => `/api/lessons/${lessonId}/print/${sheet}.pdf${said(sheet)}`
  const blank = { target: '_blank', rel: 'noreferrer' } as const
  return (
    <Dialog.Root open={open} onOpenChange={setOpen}>
      <Dialog.Trigger className="inline-flex min-h-11 items-center gap-2 rounded-lg border-2 border-ink/70 bg-sheet px-4 font-bold hover:bg-marigold/25">
        Print …
      </Dialog.Trigger>
      <Dialog.Portal>
        <Veil />
        <Dialog.Content className="fixed inset-2 z-50 mx-auto flex max-w-5xl flex-col overflow-y-auto rounded-xl border-2 border-ink bg-paper p-5 shadow-2xl sm:inset-6">
          <div className="flex flex-wrap items-center gap-3">
            <Dialog.Title className="writing-line mr-auto font-child text-3xl font-bold">Print</Dialog.Title>
            <LinkButton look="main" href={href('all')} {...blank}>
              Everything for this lesson
            </LinkButton>
            <Dialog.Close
              aria-label="Close"
              className="min-h-11 min-w-11 rounded-lg text-2xl font-bold hover:bg-marigold/30"
            >
              ×
            </Dialog.Close>
          </div>
          <Dialog.Description className="mt-1 text-soft">
            At true size: print at 100 %, not “fit to page”. Everything is as it was when the lesson was made.
          </Dialog.Description>
          {sheets.error && <Notice kind="wrong">{sheets.error.message}</Notice>}
          {sheets.isPending && <Waiting what="Laying out the sheets …" />}
          {sheets.data &&
            uses.map(([use, name]) => {
              const list = sheets.data.filter((s) => s.use === use)
              return list.length === 0 ? null : (
                <section key={use} aria-label={name} className="mt-4">
                  <h3 className="font-bold">{name}</h3>
                  <ul className="mt-1 grid grid-cols-2 gap-3 sm:grid-cols-4 lg:grid-cols-6">
                    {list.map((s) => (
                      <li key={s.name}>
                        <a
                          href={href(s.name)}
                          {...blank}
                          className="flex h-full flex-col items-center gap-1 rounded-lg border-2 border-line bg-sheet p-2 text-center text-sm font-bold hover:border-ink hover:bg-marigold/20"
                        >
                          <img
                            src={`/api/lessons/${lessonId}/preview/${s.name}.png?of=${revision}`}
                            alt=""
                            className="h-36 w-auto max-w-full border border-line bg-white object-contain"
                          />
                          {s.title}
                        </a>
                      </li>
                    ))}
                  </ul>
                </section>
              )
            })}
          <div className="mt-5 grid in-row gap-4 sm:grid-cols-[1fr_auto_auto]">
            <Field
              label="A line for families in another language"
              hint="Stands at the foot of the home sheet; empty leaves room to write."
            >
              {(ids) => (
                <Input {...ids} dir="auto" value={line} maxLength={300} onChange={(e) => setLine(e.target.value)} />
              )}
            </Field>
            <LinkButton href={`/api/classes/${classId}/mat.pdf`} {...blank}>
              All that the class knows
            </LinkButton>
            <LinkButton href={`/api/lessons/${lessonId}/sheets.html${said('text')}`} {...blank}>
              As text
            </LinkButton>
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  )
}
