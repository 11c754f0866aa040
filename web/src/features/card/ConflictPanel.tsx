import type { Content, Problem } from '../../api/client'
import { Button } from '../../ui/parts'
import { fieldName } from '../../ui/fields'

/** What two people changed at once, side by side, until one of them is chosen. */
export function ConflictPanel({
  conflict,
  draft,
  resolve,
}: {
  conflict: NonNullable<Problem['conflict']>
  draft: Content
  resolve: (whose: 'mine' | 'theirs') => void
}) {
  return (
    <div className="rounded-lg border-4 border-brick bg-coral/20 p-4">
      <p className="font-bold">
        {conflict.by} changed the {conflict.fields.map(fieldName).join(', ')} while you were writing. Nothing of yours
        is lost: choose what stands.
      </p>
      {conflict.fields.map((f) => (
        <div key={f} className="mt-2 grid gap-2 text-sm md:grid-cols-2">
          <p className="rounded bg-sheet p-2">
            <b>Yours:</b> {String(draft[f as keyof Content] ?? '')}
          </p>
          <p className="rounded bg-sheet p-2">
            <b>{conflict.by}:</b> {String(conflict.theirs.content[f as keyof Content] ?? '')}
          </p>
        </div>
      ))}
      <div className="mt-3 flex gap-3">
        <Button look="main" onClick={() => resolve('mine')}>
          Keep mine
        </Button>
        <Button onClick={() => resolve('theirs')}>Take theirs</Button>
      </div>
    </div>
  )
}
