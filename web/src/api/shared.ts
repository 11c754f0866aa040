import { queryOptions, useQuery } from '@tanstack/react-query'
import { client, data, keys, queryClient } from './client'

const me = queryOptions({ queryKey: keys.me, queryFn: () => data(client.GET('/session')), staleTime: Infinity })
const wall = queryOptions({ queryKey: keys.wall, queryFn: () => data(client.GET('/cards')).then((d) => d ?? []) })
const classes = queryOptions({ queryKey: keys.classes, queryFn: () => data(client.GET('/classes')).then((d) => d ?? []) })

/** Asks for what the first page needs all at once, before it is drawn. */
export function fetchEarly() {
  void queryClient.prefetchQuery(me)
  if (location.pathname === '/') {
    void queryClient.prefetchQuery(wall)
    void queryClient.prefetchQuery(classes)
  }
}

export const useMe = () => useQuery(me)
export const useWall = () => useQuery(wall)
export const useClasses = () => useQuery(classes)
export const useClass = (id: string) =>
  useQuery({ queryKey: keys.class(id), queryFn: () => data(client.GET('/classes/{id}', { params: { path: { id } } })), enabled: id !== '' })

export const mayI = (rights: readonly string[] | null | undefined, what: string) => rights?.some((r) => r.startsWith(what)) ?? false
