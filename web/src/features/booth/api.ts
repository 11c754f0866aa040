import { useMutation, useQuery } from '@tanstack/react-query'
import { client, data, keys, queryClient, type Schemas } from '../../api/client'

export type Listening = Schemas['Listening']
type BlindTake = Schemas['BlindTake']
export type Heard = Schemas['HearingResult']
export type ListenerPair = Schemas['ListenerPair']

const path = (id: string) => ({ params: { path: { id } } })

/** The takes in an order of one's own. It is read once a visit: what was heard in it stays where it is. */
export const useListening = () =>
  useQuery({
    queryKey: keys.listening,
    queryFn: () => data(client.GET('/listening')),
    staleTime: Infinity,
  })

export const useAgreement = () => useQuery({ queryKey: keys.agreement, queryFn: () => data(client.GET('/agreement')) })

const said = (takeId: string, mine: Heard | undefined) => {
  queryClient.setQueryData<Listening>(
    keys.listening,
    (l) => l && { ...l, takes: l.takes.map((t) => (t.take_id === takeId ? blind(t, mine) : t)) },
  )
  void queryClient.invalidateQueries({ queryKey: keys.agreement })
}

const blind = ({ take_id, pair, as_in }: BlindTake, mine: Heard | undefined): BlindTake => ({
  take_id,
  pair,
  as_in,
  ...(mine ? { mine } : {}),
})

export const useHear = () =>
  useMutation({
    mutationFn: ({ takeId, heard }: { takeId: string; heard: Heard }) =>
      data(client.PUT('/takes/{id}/hearing', { ...path(takeId), body: heard })),
    onSuccess: (_, { takeId, heard }) => said(takeId, heard),
  })

export const useUnhear = () =>
  useMutation({
    mutationFn: (takeId: string) => data(client.DELETE('/takes/{id}/hearing', path(takeId))),
    onSuccess: (_, takeId) => said(takeId, undefined),
  })
