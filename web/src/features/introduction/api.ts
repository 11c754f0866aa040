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

type Edit =
  | { call: 'swap'; revision: number; slot: string }
  | { call: 'lock'; revision: number; slot: string; locked: boolean }
  | { call: 'renew'; revision: number; minutes: number }

/** Each kind of change has a call of its own. */
function edited(id: string, edit: Edit): Promise<Introduction> {
  const params = { path: { id } }
  const { revision } = edit
  switch (edit.call) {
    case 'swap':
      return data(client.POST('/introductions/{id}/swap', { params, body: { revision, slot: edit.slot } }))
    case 'lock':
      return data(
        client.POST('/introductions/{id}/lock', { params, body: { revision, slot: edit.slot, locked: edit.locked } }),
      )
    case 'renew':
      return data(client.POST('/introductions/{id}/renew', { params, body: { revision, minutes: edit.minutes } }))
  }
}

export const useEdit = (id: string) =>
  useMutation({
    mutationFn: (edit: Edit) => edited(id, edit),
    onSuccess: (after: Introduction) => queryClient.setQueryData(keys.introduction(id), after),
    onError: () => queryClient.invalidateQueries({ queryKey: keys.introduction(id) }),
  })
