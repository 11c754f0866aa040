import { useMutation, useQuery } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { CallError, client, data, keys, queryClient } from '../../api/client'

/** A lesson as it was when it was opened: nothing fetches it anew while a class is taught. */
export const useLessonToTeach = (id: string) =>
  useQuery({
    queryKey: keys.introduction(id),
    queryFn: () => data(client.GET('/introductions/{id}', { params: { path: { id } } })),
    staleTime: Infinity,
    refetchOnWindowFocus: false,
    refetchOnReconnect: false,
  })

type Log = { reached: string; sure: { card_id: string; sure: number }[] }

/** Sends the log of a lesson. With no line it is kept on this machine and sent when the line is back. */
export function useLog(introductionId: string) {
  const store = `log-${introductionId}`
  const [kept, setKept] = useState(() => localStorage.getItem(store) !== null)
  const log = useMutation({
    mutationFn: (body: Log) =>
      data(client.POST('/introductions/{id}/log', { params: { path: { id: introductionId } }, body })),
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
      if (body) send(JSON.parse(body) as Log)
    }
    window.addEventListener('online', again)
    return () => window.removeEventListener('online', again)
  }, [store, send])
  return { log, kept }
}
