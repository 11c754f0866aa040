import { useMutation, useQuery } from '@tanstack/react-query'
import { client, data, keys, queryClient, type Schemas } from '../../api/client'

export type ClassView = Schemas['ClassView']
export type Meeting = Schemas['Meeting']

export const useHistory = (id: string) =>
  useQuery({
    queryKey: keys.history(id),
    queryFn: () => data(client.GET('/classes/{id}/log', { params: { path: { id } } })),
  })

/** What a class knows changes words, lessons and texts: all is asked anew. */
const anew = () => queryClient.invalidateQueries()

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
