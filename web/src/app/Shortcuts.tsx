import { Dialog } from 'radix-ui'
import { Button, Key, Check } from '../ui/parts'
import { switchSingleKeys, useSingleKeys, useTold } from '../ui/shortcuts'

const names: Record<string, string> = {
  ' ': 'space',
  ArrowLeft: '←',
  ArrowRight: '→',
  ArrowUp: '↑',
  ArrowDown: '↓',
  Enter: 'enter',
  Escape: 'esc',
}

/** The keys of what is shown, and a switch for those without a second key. */
export default function Shortcuts({ onClose }: { onClose: () => void }) {
  const told = useTold()
  const on = useSingleKeys()
  const keys = new Map(told.flatMap((s) => Object.entries(s)))
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-slate/60" />
        <Dialog.Content className="fixed top-1/2 left-1/2 z-50 max-h-[90vh] w-full max-w-xl -translate-1/2 overflow-y-auto rounded-xl bg-paper p-6 text-ink shadow-2xl">
          <Dialog.Title className="writing-line font-child text-3xl font-bold">Keys of this page</Dialog.Title>
          <Dialog.Description className="mt-2">
            {keys.size > 0 ? 'While you are not writing in a field.' : 'This page has no keys of its own.'}
          </Dialog.Description>
          <dl className="mt-4 grid grid-cols-[6rem_1fr] gap-y-2 text-lg">
            {[...keys].map(([key, text]) => (
              <div key={key} className="contents">
                <dt>
                  <Key>{names[key] ?? key.replace('alt+', 'alt ')}</Key>
                </dt>
                <dd>{text}</dd>
              </div>
            ))}
            <div className="contents">
              <dt>
                <Key>?</Key>
              </dt>
              <dd>this list</dd>
            </div>
          </dl>
          <Check
            className="mt-5 border-t border-line pt-3"
            checked={on}
            onChange={(e) => switchSingleKeys(e.target.checked)}
          >
            Single letters are keys here. Switch them off for speech input.
          </Check>
          <Dialog.Close asChild>
            <Button look="main" className="mt-4">
              Close
            </Button>
          </Dialog.Close>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  )
}
