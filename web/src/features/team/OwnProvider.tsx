import { Button, Notice } from '../../ui/parts'
import { useLeave, useWays } from '../../api/shared'
import { useDisconnect, useProvider } from './api'

/** Whether somebody signs in by the school's own sign-in; nothing where none is set up. */
export function OwnProvider() {
  const ways = useWays()
  const own = useProvider()
  const connect = useLeave()
  const disconnect = useDisconnect()
  const name = ways.data?.provider
  if (!name || !own.data) return null
  const error = connect.error ?? disconnect.error
  return (
    <details>
      <summary className="min-h-11 cursor-pointer content-center font-bold">
        {own.data.since ? `✓ You sign in with ${name} as well` : `Sign in with ${name} as well`}
      </summary>
      <div className="flex flex-col gap-3">
        {own.data.since ? (
          <p>
            Since {new Date(own.data.since).toLocaleDateString('en-GB')}. {name} lets you in without your password
            {own.data.password ? '.' : ': you have none here.'}
          </p>
        ) : (
          <p>
            {name} lets you in then, without your password and without a code: it asks what it wants to know itself.
          </p>
        )}
        <div>
          {own.data.since ? (
            <Button disabled={disconnect.isPending || !own.data.password} onClick={() => disconnect.mutate()}>
              Not with {name} any more
            </Button>
          ) : (
            <Button disabled={connect.isPending} onClick={() => connect.mutate({ purpose: 'connect' })}>
              Connect {name}
            </Button>
          )}
        </div>
        {error && <Notice kind="wrong">{error.message}</Notice>}
      </div>
    </details>
  )
}
