import { useMutation, useQuery } from '@tanstack/react-query'
import { client, data, keys, queryClient, type Schemas } from '../../api/client'

export type ClassView = Schemas['ClassView']

export const useHistory = (id: string) =>
  useQuery({
    queryKey: keys.history(id),
    queryFn: () => data(client.GET('/classes/{id}/log', { params: { path: { id } } })),
  })

/** What a class knows changes words, lessons and texts: all is asked anew. */
const anew = () => queryClient.invalidateQueries()

export const useTimes = (id: string) =>
  useQuery({
    queryKey: keys.times(id),
    queryFn: () => data(client.GET('/classes/{id}/times', { params: { path: { id } } })),
  })

export const useSetFlow = (id: string) =>
  useMutation({
    mutationFn: (flows_back: boolean) =>
      data(client.PUT('/groups/{id}/flow', { params: { path: { id } }, body: { flows_back } })),
    onSuccess: anew,
  })

const path = (id: string) => ({ params: { path: { id } } })

export const useTeachers = () => useQuery({ queryKey: keys.teachers, queryFn: () => data(client.GET('/teachers')) })

export const useSetTeachers = (id: string) =>
  useMutation({
    mutationFn: (members: string[]) => data(client.PUT('/classes/{id}/teachers', { ...path(id), body: { members } })),
    onSuccess: () => queryClient.invalidateQueries({ queryKey: keys.teachers }),
  })

export const useRename = (id: string) =>
  useMutation({
    mutationFn: (name: string) => data(client.PUT('/classes/{id}/name', { ...path(id), body: { name } })),
    onSuccess: anew,
  })

export const useArchive = (id: string) =>
  useMutation({
    mutationFn: (archived: boolean) => data(client.PUT('/classes/{id}/archived', { ...path(id), body: { archived } })),
    onSuccess: anew,
  })

export const useDeclare = (id: string) =>
  useMutation({
    mutationFn: (body: Schemas['Declaration']) =>
      data(client.POST('/classes/{id}/known', { params: { path: { id } }, body })),
    onSuccess: anew,
  })

export const useCorrect = (id: string) =>
  useMutation({
    mutationFn: ({ log, sure }: { log: number; sure?: number }) =>
      data(
        client.POST('/classes/{id}/log/{log}', {
          params: { path: { id, log } },
          body: sure === undefined ? {} : { sure },
        }),
      ),
    onSuccess: anew,
  })
