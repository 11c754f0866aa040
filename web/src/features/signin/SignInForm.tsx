import { useState } from 'react'
import { CallError } from '../../api/client'
import { Button, Field, Input } from '../../ui/parts'
import { ByProvider } from './ByProvider'
import { useSignIn, type SignIn } from './api'

export function SignInForm({ email = '' }: { email?: string }) {
  const [form, setForm] = useState<SignIn>({ email, password: '' })
  const signIn = useSignIn()
  const error = signIn.error
  const where = error instanceof CallError ? error.problem.field : undefined
  const asked = error instanceof CallError && error.problem.code === 'second-step'
  // Once it was asked for it stays, whatever comes next.
  const [wanted, setWanted] = useState(false)
  if (asked && !wanted) setWanted(true)
  return (
    <form
      className="mt-6 flex flex-col gap-4"
      onSubmit={(e) => {
        e.preventDefault()
        signIn.mutate(form)
      }}
    >
      <Field label="E-mail" error={where === 'email' ? error?.message : undefined}>
        {(ids) => (
          <Input
            {...ids}
            type="email"
            autoComplete="username"
            required
            value={form.email}
            onChange={(e) => setForm({ ...form, email: e.target.value })}
          />
        )}
      </Field>
      <Field
        label="Password"
        error={error && !asked && where !== 'email' && where !== 'code' ? error.message : undefined}
      >
        {(ids) => (
          <Input
            {...ids}
            type="password"
            autoComplete="current-password"
            required
            value={form.password}
            onChange={(e) => setForm({ ...form, password: e.target.value })}
          />
        )}
      </Field>
      {wanted && (
        <Field
          label="Code from your app"
          hint="six digits, or one from your paper"
          error={where === 'code' ? error?.message : undefined}
        >
          {(ids) => (
            <Input
              {...ids}
              autoFocus
              inputMode="text"
              autoComplete="one-time-code"
              maxLength={20}
              required
              value={form.code ?? ''}
              onChange={(e) => setForm({ ...form, code: e.target.value })}
            />
          )}
        </Field>
      )}
      <Button type="submit" look="main" disabled={signIn.isPending}>
        {signIn.isPending ? 'One moment …' : 'Sign in'}
      </Button>
      <ByProvider way={{ purpose: 'sign-in' }} />
    </form>
  )
}
