import { useState } from 'react'
import { inputLook, LinkButton, Notice, Select } from '../../ui/parts'
import { useSettled } from '../../ui/useSettled'
import { useAccountEvents, type AccountEvent, type EventAsk } from './api'

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
  'second-on': 'is asked for a code when signing in',
  'second-off': 'is asked for no code any more',
  'provider-on': 'signs in by the school’s sign-in as well',
  'provider-off': 'does not sign in by the school’s sign-in any more',
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
  const [kind, setKind] = useState<EventAsk['kind']>('')
  const [who, setWho] = useState('')
  const asked = useSettled(who.trim(), 300)
  const events = useAccountEvents({ kind, who: asked })
  const query = new URLSearchParams({ kind: kind ?? '', who: asked })
  return (
    <>
      <p className="text-soft">The newest first, kept for 90 days.</p>
      <div className="flex flex-wrap items-center gap-3 py-2">
        <Select aria-label="What happened" value={kind} onChange={(e) => setKind(e.target.value as EventAsk['kind'])}>
          <option value="">everything</option>
          {Object.entries(said).map(([k, text]) => (
            <option key={k} value={k}>
              {text.replace(/^! /, '')}
            </option>
          ))}
        </Select>
        <input
          aria-label="Whose, or by whom"
          placeholder="a name"
          maxLength={80}
          className={`${inputLook} max-w-48`}
          value={who}
          onChange={(e) => setWho(e.target.value)}
        />
        <LinkButton href={`/api/account-events.csv?${query.toString()}`} download="account-events.csv">
          As a table (CSV)
        </LinkButton>
      </div>
      {events.data?.length === 0 && <p>Nothing of the kind happened.</p>}
      {events.error && <Notice kind="wrong">{events.error.message}</Notice>}
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
