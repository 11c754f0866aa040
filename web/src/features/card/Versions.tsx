import { useState } from 'react'
import type { Content } from '../../api/client'
import { Button } from '../../ui/parts'
import { useVersions } from './api'
import { fieldName } from './model'

/** Every change of the card: who, when, what; an earlier content can be brought back as a new change. */
export function Versions({
  cardId,
  readOnly,
  onRestore,
}: {
  cardId: string
  readOnly: boolean
  onRestore: (c: Partial<Content>) => void
}) {
  const versions = useVersions(cardId)
  const [open, setOpen] = useState<number>()
  return (
    <details className="text-sm">
      <summary className="min-h-11 content-center text-base font-bold">
        Changes ({versions.data?.length ?? '…'})
      </summary>
      <ol className="flex max-h-96 flex-col gap-1 overflow-y-auto">
        {versions.data?.map((v, i) => (
          <li key={v.version} className="border-l-4 border-line pl-2">
            <button
              type="button"
              aria-expanded={open === v.version}
              className="min-h-11 text-left"
              onClick={() => setOpen(open === v.version ? undefined : v.version)}
            >
              <b>{v.version}</b> {v.changed_by},{' '}
              {new Date(v.changed_at).toLocaleString('en-GB', { dateStyle: 'short', timeStyle: 'short' })}
              <br />
              {(v.changed ?? []).map(fieldName).join(', ')} · {v.state}
            </button>
            {open === v.version && (
              <div className="mb-2 rounded bg-sheet p-2">
                <p>{v.content.keyword && `Keyword: ${v.content.keyword}.`}</p>
                <p>{v.content.rhyme && `Rhyme: ${v.content.rhyme}`}</p>
                <p>{v.content.action && `Action: ${v.content.action}`}</p>
                <p>{v.content.mouth_cue && `Mouth: ${v.content.mouth_cue}`}</p>
                <p>{(v.content.words ?? []).length > 0 && `Words: ${(v.content.words ?? []).join(', ')}`}</p>
                {i > 0 && !readOnly && <Button onClick={() => onRestore(v.content)}>Bring this back</Button>}
              </div>
            )}
          </li>
        ))}
      </ol>
    </details>
  )
}
