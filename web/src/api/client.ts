import { QueryClient } from '@tanstack/react-query'
import createClient from 'openapi-fetch'
import type { components, paths } from './schema'

import { keys } from './keys'

export { keys } from './keys'

export type Schemas = components['schemas']
export type Problem = Schemas['Problem']
export type WallCard = Schemas['WallCard']
export type CardView = Schemas['CardView']
export type Content = Schemas['CardContent']
export type Take = Schemas['TakeView']
export type LessonView = Schemas['LessonView']
export type Lesson = Schemas['LessonLesson']
export type Step = Schemas['LessonStep']
export type Item = Schemas['LessonItem']
export type Purpose = Lesson['purpose']
export type StepKind = Vocabulary['steps'][number]
export type Face = Schemas['LessonCardFace']
export type Bit = Schemas['SpellingBit']
export type FoundWord = Schemas['FoundWord']
export type Me = Schemas['Me']
export type Right = Me['rights'][number]
export type Vocabulary = Schemas['Vocabulary']
export type Routine = Schemas['LessonRoutine']
export type Conventions = Schemas['ConventionConventions']

export const client = createClient<paths>({ baseUrl: '/api' })

/**
 * A card or a lesson that was just changed is what is kept for a slow line: the worker would show the former one, and
 * what is typed on that would clash with one's own.
 */
export async function keepChanged(method: string, path: string, answer: Response) {
  const [, kept, call] = /^(\/api\/(?:cards|lessons)\/[0-9a-f-]{36})(\/\w+)?$/.exec(path) ?? []
  const whole = method === 'PUT' ? call === undefined : method === 'POST' && path.startsWith('/api/lessons/')
  if (!kept || !whole || !answer.ok || typeof caches === 'undefined') return
  const copy = answer.clone()
  await caches
    .open('answers')
    .then((c) => c.put(kept, copy))
    .catch(() => undefined)
}

client.use({
  onResponse: ({ request, response }) => keepChanged(request.method, new URL(request.url).pathname, response),
})

const silent = 'The server does not answer. Your work is kept here; it is sent when the line is back.'
const broke = 'Something went wrong there. Nothing was lost; please try again.'

/** What a failed call threw: a sentence for the person, the field it belongs to, and the id in the log. */
export class CallError extends Error {
  constructor(
    readonly status: number,
    readonly problem: Partial<Problem>,
  ) {
    super(problem.detail ?? (status >= 500 ? broke : silent))
  }
}

/** Whether a failed call may go well later as it is: no line, no session, a server that is away or busy. */
export const passes = (e: CallError) => e.status === 0 || [401, 408, 429].includes(e.status) || e.status >= 500

/** What a failed call says of one field of its input. */
export const faultOf = (error: Error | null, field: string) =>
  error instanceof CallError && error.problem.field === field ? error.message : undefined

/** Turns an openapi-fetch answer into its data, or throws a CallError. */
export async function data<T>(call: Promise<{ data?: T; error?: unknown; response: Response }>): Promise<T> {
  let answer
  try {
    answer = await call
  } catch {
    throw new CallError(0, {})
  }
  if (answer.data === undefined) {
    const status = answer.response.status
    if (status === 401 && !answer.response.url.endsWith('/api/session'))
      // the session has ended: look who is signed in
      void queryClient.invalidateQueries({ queryKey: keys.me })
    throw new CallError(status, (answer.error ?? {}) as Partial<Problem>)
  }
  return answer.data
}

export const queryClient = new QueryClient({
  defaultOptions: {
    queries: { staleTime: 30_000, retry: (n, e) => n < 2 && !(e instanceof CallError && e.status > 0) },
    // 503 says that nothing was stored
    mutations: {
      networkMode: 'always',
      retry: (n, e) => n < 5 && e instanceof CallError && e.status === 503,
      retryDelay: 2000,
    },
  },
})
