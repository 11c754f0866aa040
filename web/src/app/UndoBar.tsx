import { Toast } from 'radix-ui'
import { closeUndo, useUndo } from '../ui/undo'

const stays = 30_000 // milliseconds; it waits while it has the pointer or the focus

/** What was done last, and a way back. */
export default function UndoBar() {
  const undo = useUndo()
  return (
    <Toast.Provider swipeDirection="down" duration={stays}>
      {undo && (
        <Toast.Root
          key={undo.text}
          open
          onOpenChange={(open) => !open && closeUndo()}
          className="flex items-center gap-4 rounded-lg border-2 border-ink bg-slate px-5 py-3 text-chalk shadow-2xl"
        >
          <Toast.Description className="text-lg">{undo.text}</Toast.Description>
          <Toast.Action
            altText="Press Control Z to put it back"
            onClick={() => void undo.back()}
            className="min-h-11 rounded-lg bg-marigold px-4 font-bold text-ink"
          >
            Put it back
          </Toast.Action>
          <Toast.Close aria-label="Close" className="min-h-11 min-w-11 rounded-lg text-xl hover:bg-chalk/10">
            ×
          </Toast.Close>
        </Toast.Root>
      )}
      <Toast.Viewport className="fixed bottom-4 left-1/2 z-50 w-max max-w-[94vw] -translate-x-1/2" />
    </Toast.Provider>
  )
}
