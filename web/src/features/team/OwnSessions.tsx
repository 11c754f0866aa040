import { useState } from 'react'
import { useMe } from '../../api/shared'
import { Button, LinkButton, Notice } from '../../ui/parts'
import { useEndOthers, useEndSession, useOwnSessions } from './api'
import { browserOf } from './model'

const at = (text: string) => new Date(text).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' })

/** Where somebody is signed in, and a way to end it there. */
export function OwnSessions() {
  const [open, setOpen] = useState(false)
  const me = useMe()
  return (
    <>
      <details onToggle={(e) => setOpen(e.currentTarget.open)}>
        <summary className="min-h-11 cursor-pointer content-center font-bold">Where you are signed in</summary>
        {open && <List />}
      </details>
      {me.data && (
        <p>
          <LinkButton look="quiet" href={`/api/members/${me.data.member_id}/data`} download="what-is-kept.json">
            What is kept of you
          </LinkButton>
        </p>
      )}
    </>
  )
}

function List() {
  const me = useMe()
  const list = useOwnSessions()
  const end = useEndSession()
  const others = useEndOthers()
  const error = list.error ?? end.error ?? others.error
  return (
    <>
      <ul>
        {list.data?.map((s) => (
          <li key={s.id} className="flex min-h-11 flex-wrap items-center gap-x-4 border-b border-line">
            <span className="flex-1">
              <b>{s.desk ? 'A phone that is the desk of a lesson' : browserOf(s.agent)}</b>
              {s.here && ', here'}
              {(me.data?.teams.length ?? 0) > 1 && `, ${s.team}`}, since {at(s.began)}, last used {at(s.seen)}
              <span className="text-soft"> {s.address}</span>
            </span>
            {!s.here && (
              <Button look="quiet" disabled={end.isPending} onClick={() => end.mutate(s.id)}>
                Sign out there
              </Button>
            )}
          </li>
        ))}
      </ul>
      {error && <Notice kind="wrong">{error.message}</Notice>}
      {(list.data?.length ?? 0) > 1 && (
        <p className="pt-2">
          <Button disabled={others.isPending} onClick={() => others.mutate()}>
            Sign out everywhere else
          </Button>
        </p>
      )}
    </>
  )
}
