import { useMutation, useQuery } from '@tanstack/react-query'
import { CallError, client, data, keys, passes, queryClient, type LessonView, type Schemas } from '../../api/client'
import { drop, keep, useLetters } from '../../api/outbox'

/** A lesson as it was when it was opened: nothing fetches it anew while a class is taught. */
export const useLessonToTeach = (id: string) =>
  useQuery({
    queryKey: keys.lesson(id),
    queryFn: () => data(client.GET('/lessons/{id}', { params: { path: { id } } })),
    staleTime: Infinity,
    refetchOnWindowFocus: false,
    refetchOnReconnect: false,
  })

export type Taught = Schemas['Taught']

/** Sends the log of a lesson. What does not get through is kept in the outbox and sent when it can be. */
export function useLog(view: LessonView, who: string) {
  const lessonId = view.lesson_id
  const id = `log ${lessonId}`
  const kept = useLetters().some((l) => l.id === id)
  const log = useMutation({
    mutationFn: (body: Taught) => data(client.PUT('/lessons/{id}/log', { params: { path: { id: lessonId } }, body })),
    onSuccess: async () => {
      await drop(id)
      return queryClient.invalidateQueries()
    },
    onError: (e, body) => {
      if (!(e instanceof CallError) || !passes(e)) return
      const path = `/lessons/${lessonId}/log`
      const label = `Log of ${view.class_name}`
      void keep({ id, who, label, page: `/teach/${lessonId}`, path, body, at: Date.now() })
    },
    retry: false,
  })
  return { log, kept }
}

/** Takes back that a lesson was taught. */
export const useUnlog = (lessonId: string) =>
  useMutation({
    mutationFn: () => data(client.DELETE('/lessons/{id}/log', { params: { path: { id: lessonId } } })),
    onSuccess: () => queryClient.invalidateQueries(),
  })

/** A code with which a phone becomes the desk of a lesson. */
export const useInvite = (lessonId: string) =>
  useMutation({
    mutationFn: () => data(client.POST('/lessons/{id}/desks', { params: { path: { id: lessonId } } })),
    onSuccess: () => queryClient.invalidateQueries({ queryKey: keys.phones(lessonId) }),
  })

export const usePhones = (lessonId: string) =>
  useQuery({
    queryKey: keys.phones(lessonId),
    queryFn: () => data(client.GET('/lessons/{id}/desks', { params: { path: { id: lessonId } } })),
    refetchInterval: 3000,
  })

export const useDismiss = (lessonId: string) =>
  useMutation({
    mutationFn: () => data(client.DELETE('/lessons/{id}/desks', { params: { path: { id: lessonId } } })),
    onSuccess: () => queryClient.invalidateQueries({ queryKey: keys.phones(lessonId) }),
  })

/** A word that a child brought: cut for the board, and whether the class can read it. */
export const useOwnWord = (lessonId: string) =>
  useMutation({
    mutationFn: (word: string) =>
      data(client.GET('/lessons/{id}/own-word', { params: { path: { id: lessonId }, query: { word } } })),
    retry: false,
  })

/** Joins a lesson as its desk, by the code that the laptop shows. */
export const useJoinDesk = () =>
  useMutation({ mutationFn: (code: string) => data(client.POST('/desk', { body: { code } })), retry: false })
