import { Modal, ModalClose } from '../ui/Modal'
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
    <Modal
      title="Keys of this page"
      about={keys.size > 0 ? 'While you are not writing in a field.' : 'This page has no keys of its own.'}
      width="max-w-xl"
      onClose={onClose}
    >
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
      <ModalClose>
        <Button look="main" className="self-end">
          Close
        </Button>
      </ModalClose>
    </Modal>
  )
}
