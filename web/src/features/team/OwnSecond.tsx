import { useEffect, useMemo, useState } from 'react'
import { faultOf } from '../../api/client'
import { callThen, useMe } from '../../api/shared'
import { Button, Field, Input, Notice } from '../../ui/parts'
import { secondAnew, useBeginSecond, useConfirmSecond, useDropSecond, useSecond } from './api'

/** The second step of the own sign-in: a code from an app on the own phone. */
export function OwnSecond() {
  const second = useSecond()
  if (!second.data) return null
  return (
    <details>
      <summary className="min-h-11 cursor-pointer content-center font-bold">
        {second.data.on ? '✓ A code from your app is asked for when you sign in' : 'Sign in with a code as well'}
      </summary>
      {second.data.on ? <On spare={second.data.spare} /> : <Off />}
    </details>
  )
}

function Off() {
  const begin = useBeginSecond()
  const confirm = useConfirmSecond()
  const [code, setCode] = useState('')
  const [spare, setSpare] = useState<string[]>()
  if (spare) return <Spare codes={spare} />
  return (
    <div className="flex flex-col gap-3">
      <p>
        An app on your own phone shows six digits that change each half minute; with them a stolen password is no use.
        Any app for such codes will do.
      </p>
      {!begin.data ? (
        <div>
          <Button disabled={begin.isPending} onClick={() => begin.mutate()}>
            Set it up
          </Button>
        </div>
      ) : (
        <form
          className="flex flex-wrap items-start gap-6"
          onSubmit={(e) => {
            e.preventDefault()
            callThen(confirm, code, (r) => setSpare(r.spare))
          }}
        >
          <Qr png={begin.data.qr} />
          <div className="flex min-w-64 flex-1 flex-col gap-3">
            <p>
              Scan this with the app, or type: <b className="font-mono break-all">{begin.data.secret}</b>
            </p>
            <Field label="The six digits that it shows now" error={faultOf(confirm.error, 'code')}>
              {(ids) => (
                <Input
                  {...ids}
                  inputMode="numeric"
                  autoComplete="one-time-code"
                  maxLength={7}
                  value={code}
                  onChange={(e) => setCode(e.target.value)}
                />
              )}
            </Field>
            <div>
              <Button type="submit" look="main" disabled={confirm.isPending || code.trim().length < 6}>
                Ask for it from now on
              </Button>
            </div>
          </div>
        </form>
      )}
      {begin.error && <Notice kind="wrong">{begin.error.message}</Notice>}
      {confirm.error && !faultOf(confirm.error, 'code') && <Notice kind="wrong">{confirm.error.message}</Notice>}
    </div>
  )
}

function Qr({ png }: { png: string }) {
  const url = useMemo(() => {
    const bytes = Uint8Array.from(atob(png), (c) => c.charCodeAt(0))
    return URL.createObjectURL(new Blob([bytes], { type: 'image/png' }))
  }, [png])
  useEffect(() => () => URL.revokeObjectURL(url), [url])
  return <img src={url} alt="The secret as a picture to scan" className="size-60 bg-white" />
}

function Spare({ codes }: { codes: string[] }) {
  useEffect(() => () => void secondAnew(), []) // once they were read
  return (
    <Notice kind="good">
      <p className="text-base">
        From now on a code is asked for. Write these down on paper: each lets you in once when the phone is gone. They
        are shown now and never again.
      </p>
      <ul className="grid grid-cols-2 gap-x-6 pt-2 font-mono text-lg sm:grid-cols-4">
        {codes.map((c) => (
          <li key={c}>
            {c.slice(0, 5)} {c.slice(5)}
          </li>
        ))}
      </ul>
    </Notice>
  )
}

function On({ spare }: { spare: number }) {
  const me = useMe()
  const drop = useDropSecond(me.data?.member_id ?? '')
  const [password, setPassword] = useState('')
  return (
    <form
      className="flex flex-wrap in-row gap-3"
      onSubmit={(e) => {
        e.preventDefault()
        drop.mutate(password)
      }}
    >
      <p className="basis-full">
        {spare} {spare === 1 ? 'code' : 'codes'} on your paper {spare === 1 ? 'is' : 'are'} left. When both phone and
        paper are gone, a lead of the team takes the code away.
      </p>
      <div className="w-64">
        <Field label="Your password" error={faultOf(drop.error, 'password')}>
          {(ids) => (
            <Input
              {...ids}
              type="password"
              autoComplete="current-password"
              value={password}
              onChange={(e) => setPassword(e.target.value)}
            />
          )}
        </Field>
      </div>
      <Button type="submit" disabled={drop.isPending || password === ''}>
        Ask for no code any more
      </Button>
      {drop.error && !faultOf(drop.error, 'password') && <Notice kind="wrong">{drop.error.message}</Notice>}
    </form>
  )
}
