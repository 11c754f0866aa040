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

export type Voice = Schemas['Spoken']['voice']

export type Edit =
  | { call: 'swap' | 'remove'; slot: string }
  | { call: 'speak'; slot: string; voice: Voice }
  | { call: 'clue'; word: string; clue: string }
  | { call: 'lock'; slot: string; locked: boolean }
  | { call: 'move'; slot: string; to: number }
  | { call: 'renew'; minutes: number }
  | { call: 'back' }
  | { call: 'text'; step: string; adult: string[]; class: string[] }
  | { call: 'send'; step: string; values: string[]; add: boolean }

/** Each kind of change has a call of its own. */
function edited(id: string, revision: number, edit: Edit): Promise<LessonView> {
  const params = { path: { id } }
  switch (edit.call) {
    case 'swap':
      return data(client.POST('/lessons/{id}/swap', { params, body: { revision, slot: edit.slot } }))
    case 'remove':
      return data(client.POST('/lessons/{id}/remove', { params, body: { revision, slot: edit.slot } }))
    case 'lock':
      return data(
        client.POST('/lessons/{id}/lock', { params, body: { revision, slot: edit.slot, locked: edit.locked } }),
      )
    case 'move':
      return data(client.POST('/lessons/{id}/move', { params, body: { revision, slot: edit.slot, to: edit.to } }))
    case 'speak':
      return data(
        client.POST('/lessons/{id}/speak', { params, body: { revision, slot: edit.slot, voice: edit.voice } }),
      )
    case 'clue':
      return data(client.POST('/lessons/{id}/clue', { params, body: { revision, word: edit.word, clue: edit.clue } }))
    case 'back':
      return data(client.POST('/lessons/{id}/back', { params, body: { revision } }))
    case 'renew':
      return data(client.POST('/lessons/{id}/renew', { params, body: { revision, minutes: edit.minutes } }))
    case 'text': {
      const { step, adult } = edit
      return data(client.POST('/lessons/{id}/text', { params, body: { revision, step, adult, class: edit.class } }))
    }
    case 'send': {
      const { step, values, add } = edit
      return data(client.POST('/lessons/{id}/send', { params, body: { revision, step, values, add } }))
    }
  }
}

/** Changes go one after the other, each at the revision that the one before left. */
export const useEdit = (id: string) =>
  useMutation({
    scope: { id: `lesson ${id}` },
    mutationFn: (edit: Edit) => edited(id, queryClient.getQueryData<LessonView>(keys.lesson(id))?.revision ?? 0, edit),
    // a change is for one revision: sent twice, it counts once
    retry: (n, e) => n < 8 && e instanceof CallError && passes(e),
    retryDelay: 3000,
    onSuccess: (after: LessonView) => queryClient.setQueryData(keys.lesson(id), after),
    onError: () => queryClient.invalidateQueries({ queryKey: keys.lesson(id) }),
  })
