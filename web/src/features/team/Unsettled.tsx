import { Button, Notice } from '../../ui/parts'

type Props = { kept: { dirty: boolean; others: boolean; settle: () => void }; word: string }

/** Says that a form holds changes that are not settled yet; they stay until they are, or are given up. */
export function Unsettled({ kept, word }: Props) {
  if (!kept.dirty) return null
  return (
    <Notice kind="care">
      <span className="flex flex-wrap items-center gap-3">
        <span>
          Changed here and not {word} yet. It stays as you left it, also when you leave this page.
          {kept.others && (
            <b> Somebody else has changed this since: what you {word === 'agreed' ? 'agree' : 'keep'} goes over it.</b>
          )}
        </span>
        <Button look="quiet" onClick={kept.settle}>
          Back to what stands
        </Button>
      </span>
    </Notice>
  )
}
