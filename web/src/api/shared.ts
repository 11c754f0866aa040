import { useQuery } from '@tanstack/react-query'
import { client, data, keys } from './client'

export const useMe = () => useQuery({ queryKey: keys.me, queryFn: () => data(client.GET('/session')), staleTime: Infinity })
export const useWall = () => useQuery({ queryKey: keys.wall, queryFn: () => data(client.GET('/cards')).then((d) => d ?? []) })
export const useClasses = () => useQuery({ queryKey: keys.classes, queryFn: () => data(client.GET('/classes')).then((d) => d ?? []) })
export const useClass = (id: string) =>
  useQuery({ queryKey: keys.class(id), queryFn: () => data(client.GET('/classes/{id}', { params: { path: { id } } })), enabled: id !== '' })

export const mayI = (rights: readonly string[] | null | undefined, what: string) => rights?.some((r) => r.startsWith(what)) ?? false
