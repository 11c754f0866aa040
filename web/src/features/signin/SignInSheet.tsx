import { Dialog } from 'radix-ui'
import type { Me } from '../../api/client'
import { Heading } from '../../ui/parts'
import { SignInForm } from './SignInForm'

/** The session has ended while somebody works: sign in again over the page, which stays as it is. */
export function SignInSheet({ who }: { who: Me }) {
  return (
    <Dialog.Root open>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-50 bg-slate/70" />
        <Dialog.Content className="fixed inset-x-4 top-[10vh] z-50 mx-auto max-w-md rounded-xl bg-paper p-8 text-ink shadow-2xl">
          <Dialog.Title asChild>
            <div>
              <Heading level={2}>Sign in again</Heading>
            </div>
          </Dialog.Title>
          <Dialog.Description className="mt-3">
            {who.name}, your session has ended. The page stays as it is, and what you typed is kept.
          </Dialog.Description>
          <SignInForm />
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  )
}
