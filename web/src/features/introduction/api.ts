import { useMutation, useQuery } from '@tanstack/react-query'
import { client, data, keys, queryClient, type Introduction } from '../../api/client'

export const useIntroduction = (id: string) =>
  useQuery({
    queryKey: keys.introduction(id),
    queryFn: () => data(client.GET('/introductions/{id}', { params: { path: { id } } })),
  })

export const useAssemble = () =>
  useMutation({
    mutationFn: (body: { class_id: string; card_id: string; minutes: number }) =>
      data(client.POST('/introductions', { body })),
    onSuccess: (made) => {
      queryClient.setQueryData(keys.introduction(made.introduction_id), made)
      return queryClient.invalidateQueries({ queryKey: keys.introductions, exact: true })
    },
  })

type Edit = { call: 'swap' | 'lock' | 'renew'; revision: number; slot?: string; locked?: boolean; minutes?: number }

export const useEdit = (id: string) =>
  useMutation({
    mutationFn: ({ call, ...body }: Edit) =>
      data(client.POST(`/introductions/{id}/${call}`, { params: { path: { id } }, body })),
    onSuccess: (after: Introduction) => queryClient.setQueryData(keys.introduction(id), after),
    onError: () => queryClient.invalidateQueries({ queryKey: keys.introduction(id) }),
  })
