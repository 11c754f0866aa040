import { useEffect, useState } from 'react'
import { Heading, LinkButton, Notice, Waiting } from '../../ui/parts'
import { callThen } from '../../api/shared'
import { useComeIn } from './api'

/** Where the provider of sign-ins sends the browser back to. */
export function ComeInPage() {
  // What the provider says leaves the address at once: it is good for one try.
  const [said] = useState(() => new URLSearchParams(location.search))
  const comeIn = useComeIn()
  const code = said.get('code')
  const state = said.get('state')
  useEffect(() => {
    history.replaceState(history.state, '', location.pathname)
    if (code && state)
      callThen(comeIn, { code, state }, (end) => location.assign(end.purpose === 'connect' ? '/team' : '/today'))
    // eslint-disable-next-line react-hooks/exhaustive-deps -- once
  }, [])
  const refused = !code || !state
  if (!refused && !comeIn.error) return <Waiting what="You come in …" />
  return (
    <main className="mx-auto flex min-h-screen max-w-md flex-col justify-center gap-5 p-6">
      <Heading>Not signed in</Heading>
      <Notice kind="wrong">
        {comeIn.error?.message ?? 'The sign-in of your school sent you back without saying who you are.'}
      </Notice>
      <LinkButton look="main" href="/">
        To the sign-in
      </LinkButton>
    </main>
  )
}
