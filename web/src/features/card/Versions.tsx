import { useState } from 'react'
import type { Content } from '../../api/client'
import { Button } from '../../ui/parts'
import { useVersion, useVersions } from './api'
import { fieldName } from '../../ui/fields'

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
  const list = versions.data?.pages.flat() ?? []
  return (
    <details className="text-sm">
      <summary className="min-h-11 content-center text-base font-bold">Changes ({list[0]?.version ?? '…'})</summary>
      <ol className="flex max-h-96 flex-col gap-1 overflow-y-auto">
        {list.map((v, i) => (
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
              {v.changed.map(fieldName).join(', ')} · {v.state}
            </button>
            {open === v.version && (
              <Earlier cardId={cardId} version={v.version} {...(i > 0 && !readOnly ? { onRestore } : {})} />
            )}
          </li>
        ))}
        {versions.hasNextPage && (
          <li>
            <Button onClick={() => void versions.fetchNextPage()} disabled={versions.isFetchingNextPage}>
              Earlier ones
            </Button>
          </li>
        )}
      </ol>
    </details>
  )
}

function Earlier({
  cardId,
  version,
  onRestore,
}: {
  cardId: string
  version: number
  onRestore?: (c: Partial<Content>) => void
}) {
  const content = useVersion(cardId, version).data
  if (!content) return <p>…</p>
  return (
    <div className="mb-2 rounded bg-sheet p-2">
      <p>{content.keyword && `Keyword: ${content.keyword}.`}</p>
      <p>{content.rhyme && `Rhyme: ${content.rhyme}`}</p>
      <p>{content.action && `Action: ${content.action}`}</p>
      <p>{content.mouth_cue && `Mouth: ${content.mouth_cue}`}</p>
      <p>{content.words.length > 0 && `Words: ${content.words.join(', ')}`}</p>
      {onRestore && <Button onClick={() => onRestore(content)}>Bring this back</Button>}
    </div>
  )
}
