import { useNavigate } from '@tanstack/react-router'
import { useState } from 'react'
import { Button, Field, Heading, Input } from '../../ui/parts'
import { queryClient } from '../../api/client'
import { useJoinDesk } from './api'

/** On a phone: type the code that the laptop shows, and be the desk of that lesson. */
export function JoinPage() {
  const [code, setCode] = useState('')
  const join = useJoinDesk()
  const go = useNavigate()
  return (
    <main className="mx-auto flex min-h-screen max-w-md flex-col justify-center gap-5 p-6">
      <Heading>Be the desk</Heading>
      <p className="text-lg">The laptop shows a code of eight signs for the lesson that it holds. Type it here.</p>
      <form
        className="flex flex-col gap-4"
        onSubmit={(e) => {
          e.preventDefault()
          join.mutate(code, {
            onSuccess: async ({ lesson_id }) => {
              queryClient.clear()
              await go({ to: '/teach/$lessonId', params: { lessonId: lesson_id }, search: { face: 'desk' } })
            },
          })
        }}
      >
        <Field label="Code" hint="Capitals and spaces do not matter." error={join.error?.message}>
          {(ids) => (
            <Input
              {...ids}
              value={code}
              maxLength={20}
              autoFocus
              autoComplete="one-time-code"
              autoCapitalize="characters"
              spellCheck={false}
              onChange={(e) => setCode(e.target.value)}
              className="text-center font-child text-3xl tracking-widest uppercase"
            />
          )}
        </Field>
        <Button type="submit" look="main" disabled={code.trim().length < 8 || join.isPending}>
          Join the lesson
        </Button>
      </form>
    </main>
  )
}
