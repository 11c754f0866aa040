import { Button, Notice } from '../../ui/parts'
import { useLeave, useWays, type Way } from '../../api/shared'

/** The way in by the school's own sign-in; nothing where none is set up. */
export function ByProvider({ way }: { way: Way }) {
  const ways = useWays()
  const leave = useLeave()
  if (!ways.data?.provider) return null
  const join = way.purpose === 'join'
  return (
    <>
      <Button disabled={leave.isPending} onClick={() => leave.mutate(way)}>
        {join ? 'Join' : 'Sign in'} with {ways.data.provider}
      </Button>
      {leave.error && <Notice kind="wrong">{leave.error.message}</Notice>}
    </>
  )
}
