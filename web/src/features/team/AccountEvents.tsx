import { useState } from 'react'
import { useAccountEvents, type AccountEvent } from './api'

const said: Record<AccountEvent['kind'], string> = {
  'signed-in': 'signed in',
  'sign-in-failed': '! wrong password',
  'desk-joined': 'a phone joined as the desk',
  'desk-refused': '! wrong code for a desk',
  'signed-out': 'signed out',
  added: 'was added',
  'password-changed': 'changed the own password',
  'password-reset': 'got a new password',
  'role-changed': 'has another role',
  removed: 'was removed',
  invited: 'somebody was invited by a link',
  'link-ended': 'a link was taken back',
  paused: 'was paused',
  resumed: 'may sign in again',
  'sessions-ended': 'signed out everywhere else',
}

/** What happened to the team's accounts, for a lead who looks whether something is odd. */
export function AccountEvents() {
  const [open, setOpen] = useState(false)
  return (
    <details onToggle={(e) => setOpen(e.currentTarget.open)}>
      <summary className="min-h-11 cursor-pointer content-center font-bold">What happened to accounts</summary>
      {open && <EventList />}
    </details>
  )
}

function EventList() {
  const events = useAccountEvents()
  return (
    <>
      <p className="text-soft">The newest first, kept for 90 days.</p>
      <ul className="max-h-96 overflow-auto">
        {events.data?.map((e, i) => (
          <li key={i} className="flex flex-wrap gap-x-3 border-b border-line py-1">
            <time dateTime={e.happened_at} className="w-40 text-soft">
              {new Date(e.happened_at).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' })}
            </time>
            <span className="min-w-48 flex-1">
              <b>{e.member}</b> {said[e.kind]}
              {e.note && ` (${e.note})`}
              {e.by && `, by ${e.by}`}
            </span>
            <span className="text-soft">{e.address}</span>
          </li>
        ))}
      </ul>
    </>
  )
}
