import { Popover } from 'radix-ui'
import { useState } from 'react'
import { useVocabulary } from '../../api/shared'
import { Field, Input } from '../../ui/parts'

/** What can be printed of a lesson: everything at once, or one sheet. */
export function PrintMenu({ lessonId }: { lessonId: string }) {
  const sheets = useVocabulary().data?.sheets ?? []
  const [line, setLine] = useState('')
  const href = (sheet: string) =>
    `/api/lessons/${lessonId}/print/${sheet}.pdf${line && (sheet === 'home' || sheet === 'all') ? `?line=${encodeURIComponent(line)}` : ''}`
  const look = 'flex min-h-11 items-center rounded-md px-3 font-bold hover:bg-marigold/25'
  return (
    <Popover.Root>
      <Popover.Trigger className="inline-flex min-h-11 items-center gap-2 rounded-lg border-2 border-ink/70 bg-sheet px-4 font-bold hover:bg-marigold/25">
        Print <span aria-hidden>▾</span>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          aria-label="What can be printed"
          align="end"
          sideOffset={6}
          className="z-40 flex max-h-(--radix-popover-content-available-height) w-[34rem] max-w-[94vw] flex-col overflow-y-auto rounded-lg border-2 border-ink bg-sheet p-3 shadow-lg"
        >
          <a
            href={href('all')}
            target="_blank"
            rel="noreferrer"
            className={`${look} bg-slate text-chalk hover:bg-slate-deep`}
          >
            Everything for this lesson
          </a>
          <ul className="my-1 grid sm:grid-cols-2">
            {sheets.map(({ name, title }) => (
              <li key={name}>
                <a href={href(name)} target="_blank" rel="noreferrer" className={look}>
                  {title}
                </a>
              </li>
            ))}
          </ul>
          <Field
            label="A line for families in another language"
            hint="Stands at the foot of the home sheet; empty leaves room to write."
          >
            {(ids) => (
              <Input {...ids} dir="auto" value={line} maxLength={300} onChange={(e) => setLine(e.target.value)} />
            )}
          </Field>
          <p className="mt-2 text-sm text-soft">At true size: print at 100 %, not “fit to page”.</p>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  )
}
