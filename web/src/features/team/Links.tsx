import { useState } from 'react'
import { faultOf } from '../../api/client'
import { callThen } from '../../api/shared'
import { useKept } from '../../api/useKept'
import { Button, Field, Input, inputLook, LinkButton, Notice, Select } from '../../ui/parts'
import { useEndLink, useErase, useFormer, useInviteByLink, useLinks, type Asking, type NewLink } from './api'

const day = (at: string) => new Date(at).toLocaleDateString('en-GB', { weekday: 'long', day: 'numeric', month: 'long' })

/** A link that was just made: it is shown once, to be passed on. */
export function Once({ link, whom }: { link: NewLink; whom: string }) {
  const [copied, setCopied] = useState(false)
  const address = location.origin + link.path
  return (
    <Notice kind="good">
      <p className="text-base">
        Give this link to {whom}, and to nobody else. It is shown once, is good once, and until {day(link.good_until)}.
      </p>
      <p className="flex flex-wrap items-center gap-2">
        <input readOnly aria-label="The link" value={address} className={`${inputLook} font-mono text-sm`} />
        <Button onClick={() => void navigator.clipboard.writeText(address).then(() => setCopied(true))}>
          {copied ? '✓ Copied' : 'Copy it'}
        </Button>
      </p>
    </Notice>
  )
}

const empty: Asking = { name: '', email: '', role: 'teacher' }

/** Asks somebody to join by a link, and lists the links that still let somebody in. */
export function Invite() {
  const kept = useKept('asked to join', empty)
  const [made, setMade] = useState<{ link: NewLink; whom: string }>()
  const ask = useInviteByLink()
  const form = kept.value
  const wrong = (f: string) => faultOf(ask.error, f)
  const field = (part: Partial<Asking>) => kept.set({ ...form, ...part })
  return (
    <details>
      <summary className="min-h-11 content-center font-bold">Invite somebody by a link</summary>
      <form
        className="grid gap-3 sm:grid-cols-2"
        onSubmit={(e) => {
          e.preventDefault()
          callThen(ask, form, (link) => {
            setMade({ link, whom: form.name })
            kept.settle()
          })
        }}
      >
        <Field label="Name" error={wrong('name')}>
          {(ids) => (
            <Input {...ids} maxLength={100} value={form.name} onChange={(e) => field({ name: e.target.value })} />
          )}
        </Field>
        <Field label="E-mail" hint="To sign in with; nothing is sent." error={wrong('email')}>
          {(ids) => (
            <Input
              {...ids}
              type="email"
              maxLength={200}
              value={form.email}
              onChange={(e) => field({ email: e.target.value })}
            />
          )}
        </Field>
        <Field label="Role">
          {(ids) => (
            <Select {...ids} value={form.role} onChange={(e) => field({ role: e.target.value as Asking['role'] })} wide>
              <option>teacher</option>
              <option>assistant</option>
              <option>lead</option>
            </Select>
          )}
        </Field>
        <Button type="submit" look="main" className="self-end justify-self-start" disabled={ask.isPending}>
          Make the link
        </Button>
      </form>
      {made && <Once link={made.link} whom={made.whom} />}
      <Open />
    </details>
  )
}

/** Who left the team: what is kept of them, and a way to take the name from it. */
export function Former() {
  const former = useFormer()
  const erase = useErase()
  const [sure, setSure] = useState('')
  if (!former.data || former.data.length === 0) return null
  return (
    <details>
      <summary className="min-h-11 cursor-pointer content-center font-bold">Who left ({former.data.length})</summary>
      <ul>
        {former.data.map((m) => (
          <li key={m.member_id} className="flex min-h-11 flex-wrap items-center gap-x-4 border-b border-line">
            <span className="flex-1">
              <b>{m.name}</b>, {m.role}, left {day(m.left_at)}
            </span>
            <LinkButton look="quiet" href={`/api/members/${m.member_id}/data`} download="what-is-kept.json">
              What is kept
            </LinkButton>
            {sure === m.member_id ? (
              <>
                <span>What was written stays; a voice is withdrawn in the booth.</span>
                <Button look="danger" disabled={erase.isPending} onClick={() => erase.mutate(m.member_id)}>
                  Yes, erase the name
                </Button>
                <Button onClick={() => setSure('')}>Keep</Button>
              </>
            ) : (
              <Button look="quiet" onClick={() => setSure(m.member_id)}>
                Erase the name …
              </Button>
            )}
          </li>
        ))}
      </ul>
      {erase.error && <Notice kind="wrong">{erase.error.message}</Notice>}
    </details>
  )
}

function Open() {
  const links = useLinks()
  const end = useEndLink()
  if (!links.data || links.data.length === 0) return null
  return (
    <ul className="pt-3">
      {links.data.map((l) => (
        <li key={l.link_id} className="flex min-h-11 flex-wrap items-center gap-x-4 border-b border-line">
          <span className="flex-1">
            <b>{l.name}</b>, {l.email}: {l.kind === 'invitation' ? `invited as ${l.role}` : 'to choose a new password'}{' '}
            by {l.made_by}, good until {day(l.good_until)}
          </span>
          <Button look="quiet" disabled={end.isPending} onClick={() => end.mutate(l.link_id)}>
            Take it back
          </Button>
        </li>
      ))}
    </ul>
  )
}
