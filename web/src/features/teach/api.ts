import { useMutation, useQuery } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { CallError, client, data, keys, queryClient, type Schemas } from '../../api/client'

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

/** Sends the log of a lesson. With no line it is kept on this machine and sent when the line is back. */
export function useLog(lessonId: string) {
  const store = `log-${lessonId}`
  const [kept, setKept] = useState(() => localStorage.getItem(store) !== null)
  const log = useMutation({
    mutationFn: (body: Taught) => data(client.PUT('/lessons/{id}/log', { params: { path: { id: lessonId } }, body })),
    onSuccess: () => {
      localStorage.removeItem(store)
      setKept(false)
      return queryClient.invalidateQueries()
    },
    onError: (e, body) => {
      if (e instanceof CallError && e.status === 0) {
        localStorage.setItem(store, JSON.stringify(body))
        setKept(true)
      }
    },
  })
  const send = log.mutate
  useEffect(() => {
    const again = () => {
      const body = localStorage.getItem(store)
      if (body) send(JSON.parse(body) as Taught)
    }
    window.addEventListener('online', again)
    return () => window.removeEventListener('online', again)
  }, [store, send])
  return { log, kept }
}

/** Takes back that a lesson was taught. */
export const useUnlog = (lessonId: string) =>
  useMutation({
    mutationFn: () => data(client.DELETE('/lessons/{id}/log', { params: { path: { id: lessonId } } })),
    onSuccess: () => queryClient.invalidateQueries(),
  })
