import { useMutation, useQuery } from '@tanstack/react-query'
import { CallError, client, data, keys, passes, queryClient, type LessonView, type Schemas } from '../../api/client'

export const useDays = () => useQuery({ queryKey: keys.days, queryFn: () => data(client.GET('/days')) })

export const useSheets = (id: string, wanted: boolean) =>
  useQuery({
    queryKey: keys.sheets(id),
    queryFn: () => data(client.GET('/lessons/{id}/sheets', { params: { path: { id } } })),
    enabled: wanted,
  })

export type Ask = Schemas['LessonAsk']

export const useAssemble = () =>
  useMutation({
    mutationFn: (body: Ask) => data(client.POST('/lessons', { body })),
    onSuccess: (made) => {
      queryClient.setQueryData(keys.lesson(made.lesson_id), made)
      return queryClient.invalidateQueries({ queryKey: ['lessons', 'list'] })
    },
  })

/** The lessons made before a time, for the next part of the list. */
export const fetchOlder = (classId: string, before: string) =>
  data(client.GET('/lessons', { params: { query: { ...(classId ? { class: classId } : {}), before } } }))

type Body = Schemas['Edit']
export type Voice = NonNullable<Body['voice']>

/** What is changed in a lesson; the revision comes with the call. */
export type Edit =
  | { do: 'swap' | 'remove'; slot: string }
  | { do: 'voice'; slot: string; voice: Voice }
  | { do: 'clue'; word: string; clue: string }
  | { do: 'lock'; slot: string; locked: boolean }
  | { do: 'move'; slot: string; to: number }
  | { do: 'renew'; minutes: number }
  | { do: 'undo' }
  | { do: 'text'; step: string; adult: string[]; class: string[] }
  | { do: 'send'; step: string; values: string[]; add: boolean }

const edited = (id: string, body: Edit & { revision: number }): Promise<LessonView> =>
  data(client.POST('/lessons/{id}/edits', { params: { path: { id } }, body }))

/** Changes go one after the other, each at the revision that the one before left. */
export const useEdit = (id: string) =>
  useMutation({
    scope: { id: `lesson ${id}` },
    mutationFn: (edit: Edit) => {
      const revision = queryClient.getQueryData<LessonView>(keys.lesson(id))?.revision ?? 0
      return edited(id, { ...edit, revision })
    },
    // a change is for one revision: sent twice, it counts once
    retry: (n, e) => n < 8 && e instanceof CallError && passes(e),
    retryDelay: 3000,
    onSuccess: (after: LessonView) => queryClient.setQueryData(keys.lesson(id), after),
    onError: () => queryClient.invalidateQueries({ queryKey: keys.lesson(id) }),
  })
