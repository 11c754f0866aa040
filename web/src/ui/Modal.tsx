import { Dialog } from 'radix-ui'
import type { ReactNode } from 'react'

/** What lies between the page and a dialog. */
export const Veil = () => <Dialog.Overlay className="fixed inset-0 z-40 bg-slate/60" />

export const ModalClose = ({ children }: { children: ReactNode }) => <Dialog.Close asChild>{children}</Dialog.Close>

type Props = {
  title: string
  about: string
  aboutHidden?: boolean // read out only
  width?: 'max-w-md' | 'max-w-xl' | 'max-w-2xl' | 'max-w-3xl'
  children: ReactNode
} & (
  | { onClose: () => void } // it is there while it is open
  | { trigger: ReactNode; onOpen?: () => void } // the button that opens it stands in its place
)

/** A dialog in the middle of the window, with its title as a written line. */
export function Modal({ title, about, aboutHidden = false, width = 'max-w-2xl', children, ...how }: Props) {
  const opening =
    'trigger' in how
      ? { onOpenChange: (open: boolean) => open && how.onOpen?.() }
      : { open: true, onOpenChange: (open: boolean) => !open && how.onClose() }
  return (
    <Dialog.Root {...opening}>
      {'trigger' in how && <Dialog.Trigger asChild>{how.trigger}</Dialog.Trigger>}
      <Dialog.Portal>
        <Veil />
        <Dialog.Content
          className={`fixed top-1/2 left-1/2 z-50 flex max-h-[94dvh] w-full ${width} -translate-1/2 flex-col gap-4 overflow-y-auto rounded-xl bg-paper p-6 text-ink shadow-2xl`}
        >
          <Dialog.Title className="writing-line font-child text-3xl font-bold">{title}</Dialog.Title>
          <Dialog.Description className={aboutHidden ? 'sr-only' : ''}>{about}</Dialog.Description>
          {children}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  )
}
