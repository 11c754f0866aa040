import { useEffect, useState } from 'react'
import { CallError, faultOf } from '../../api/client'
import { callThen } from '../../api/shared'
import { Button, Field, Heading, Input, Notice } from '../../ui/parts'
import { ByProvider } from './ByProvider'
import { useEnter, useOpened } from './api'

/** Where a link of a lead leads: somebody new joins the team, or a member chooses a new password. */
export function WelcomePage() {
  // The secret stands behind #, so that no server's log and no referrer has it; it leaves the address at once.
  const [secret] = useState(() => location.hash.slice(1))
  useEffect(() => history.replaceState(history.state, '', location.pathname), [])
  const link = useOpened(secret)
  return (
    <main className="mx-auto flex min-h-screen max-w-md flex-col justify-center gap-5 p-6">
      <Heading>{link.data?.kind === 'reset' ? 'A new password' : 'Welcome'}</Heading>
      {link.error && <Notice kind="wrong">{link.error.message}</Notice>}
      {link.data && <Enter secret={secret} link={link.data} />}
    </main>
  )
}

type Props = { secret: string; link: NonNullable<ReturnType<typeof useOpened>['data']> }

function Enter({ secret, link }: Props) {
  const [name, setName] = useState(link.name)
  const [password, setPassword] = useState('')
  const [code, setCode] = useState('')
  const enter = useEnter()
  const wrong = (field: string) => faultOf(enter.error, field)
  const invited = link.kind === 'invitation'
  const asked = enter.error instanceof CallError && enter.error.problem.code === 'second-step'
  // Once it was asked for it stays, whatever comes next.
  const [wanted, setWanted] = useState(false)
  if (asked && !wanted) setWanted(true)
  return (
    <>
      <p className="text-lg">
        {invited ? (
          <>
            {link.made_by || 'Your team'} asks you to join <b>{link.team}</b> as {link.role}. You sign in with{' '}
            <b>{link.email}</b>.
          </>
        ) : (
          <>
            {link.name}, choose a new password for <b>{link.email}</b>. All former sessions end.
          </>
        )}
      </p>
      <form
        className="flex flex-col gap-4"
        onSubmit={(e) => {
          e.preventDefault()
          callThen(enter, { secret, name, password, ...(code ? { code } : {}) }, () => location.assign('/today'))
        }}
      >
        {invited && (
          <Field label="Your name" hint="As the team reads it beside what you write." error={wrong('name')}>
            {(ids) => <Input {...ids} maxLength={100} value={name} onChange={(e) => setName(e.target.value)} />}
          </Field>
        )}
        <input type="hidden" autoComplete="username" value={link.email} readOnly />
        <Field
          label="Your password"
          hint={link.known ? 'The one that you have: you work in another team already.' : '12 signs or more'}
          error={wrong('password')}
        >
          {(ids) => (
            <Input
              {...ids}
              type="password"
              autoComplete={link.known ? 'current-password' : 'new-password'}
              maxLength={200}
              value={password}
              onChange={(e) => setPassword(e.target.value)}
            />
          )}
        </Field>
        {wanted && (
          <Field label="Code from your app" hint="six digits, or one from your paper" error={wrong('code')}>
            {(ids) => (
              <Input
                {...ids}
                autoFocus
                autoComplete="one-time-code"
                maxLength={20}
                value={code}
                onChange={(e) => setCode(e.target.value)}
              />
            )}
          </Field>
        )}
        {enter.error && !asked && !wrong('name') && !wrong('password') && !wrong('code') && (
          <Notice kind="wrong">{enter.error.message}</Notice>
        )}
        <Button type="submit" look="main" disabled={enter.isPending || password === ''}>
          {invited ? 'Join the team' : 'Keep it and come in'}
        </Button>
        {invited && <ByProvider way={{ purpose: 'join', secret, name }} />}
      </form>
    </>
  )
}
