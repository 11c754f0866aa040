import { Button, Heading } from '../../ui/parts'
import { useDemo, useSignIn } from './api'
import { SignInForm } from './SignInForm'

export function SignInPage() {
  const demo = useDemo()
  const signIn = useSignIn()
  return (
    <main className="slate flex min-h-screen items-center justify-center bg-slate p-6">
      <div className="w-full max-w-md rounded-xl bg-paper p-8 text-ink shadow-2xl">
        <Heading>Bright Chalk</Heading>
        <p className="mt-3 text-lg">One agreed library for every new sound.</p>
        <SignInForm />
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
