import { useState } from 'react'
import { CallError } from '../../api/client'
import { Button, Field, Heading, Input } from '../../ui/parts'
import { useDemo, useSignIn, type SignIn } from './api'

export function SignInPage() {
  const [form, setForm] = useState<SignIn>({ email: '', password: '' })
  const demo = useDemo()
  const signIn = useSignIn()
  const error = signIn.error
  const where = error instanceof CallError ? error.problem.field : undefined
  return (
    <main className="slate flex min-h-screen items-center justify-center bg-slate p-6">
      <div className="w-full max-w-md rounded-xl bg-paper p-8 text-ink shadow-2xl">
        <Heading>Bright Chalk</Heading>
        <p className="mt-3 text-lg">One agreed library for every new sound.</p>
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
          <Field label="Password" error={error && where !== 'email' ? error.message : undefined}>
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
          <Button type="submit" look="main" disabled={signIn.isPending}>
            {signIn.isPending ? 'One moment …' : 'Sign in'}
          </Button>
        </form>
        {demo.data && demo.data.length > 0 && (
          <section aria-label="Demo" className="mt-6 border-t-2 border-line pt-4">
            <p className="text-sm">This is the demo team, all made up. Come in as:</p>
            <div className="mt-2 flex flex-wrap gap-2">
              {demo.data.map((d) => (
                <Button
                  key={d.role}
                  disabled={signIn.isPending}
                  onClick={() => signIn.mutate({ email: d.email, password: d.password })}
                >
                  {d.role}
                </Button>
              ))}
            </div>
          </section>
        )}
      </div>
    </main>
  )
}
