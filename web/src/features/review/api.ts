import { useMutation, useQuery } from '@tanstack/react-query'
import { useWall } from '../../api/shared'
import { client, data, keys, queryClient, type Schemas } from '../../api/client'

export type ReviewView = Schemas['ReviewView']
export type Remark = Schemas['StoreRemark']
export type Face = Schemas['Face']
export type VoiceView = Schemas['VoiceView']

const path = (id: string) => ({ params: { path: { id } } })

/** The card's pair and a word that has it, as the wall names it. */
export const useCardNamed = (id: string) => useWall().data?.find((c) => c.card_id === id)

export const useReview = (id: string) =>
  useQuery({ queryKey: keys.review(id), queryFn: () => data(client.GET('/cards/{id}/review', path(id))) })

/** What stands after a word on the card: the page at once, and everything else that shows the card. */
const settled = (id: string) => (view: ReviewView) => {
  queryClient.setQueryData(keys.review(id), view)
  return Promise.all([
    queryClient.invalidateQueries({ queryKey: keys.card(id), exact: true }),
    queryClient.invalidateQueries({ queryKey: keys.versions(id) }),
    queryClient.invalidateQueries({ queryKey: keys.wall, exact: true }),
    queryClient.invalidateQueries({ queryKey: keys.today }),
  ])
}

export const usePutForward = (id: string) =>
  useMutation({
    mutationFn: (body: Schemas['ReviewRequest']) => data(client.POST('/cards/{id}/review', { ...path(id), body })),
    onSuccess: settled(id),
  })

export const useSay = (id: string) =>
  useMutation({
    mutationFn: (body: Schemas['Verdict']) => data(client.PUT('/cards/{id}/review', { ...path(id), body })),
    onSuccess: settled(id),
    // somebody decided or changed it meanwhile: what stands now is shown beside the sentence that says so
    onError: () => queryClient.invalidateQueries({ queryKey: keys.review(id) }),
  })

const anew = (id: string) => () => queryClient.invalidateQueries({ queryKey: keys.review(id) })

export const useRemark = (id: string) =>
  useMutation({
    mutationFn: (body: Schemas['Saying']) => data(client.POST('/cards/{id}/remarks', { ...path(id), body })),
    onSuccess: anew(id),
  })

/** What can be done to something that was said on a card. */
export function useRemarkCalls(id: string) {
  const edit = useMutation({
    mutationFn: ({ remark, body }: { remark: string; body: string }) =>
      data(client.PUT('/remarks/{id}', { ...path(remark), body: { body } })),
    onSuccess: anew(id),
  })
  const drop = useMutation({
    mutationFn: (remark: string) => data(client.DELETE('/remarks/{id}', path(remark))),
    onSuccess: anew(id),
  })
  const settle = useMutation({
    mutationFn: ({ remark, settled }: { remark: string; settled: boolean }) =>
      data(client.PUT('/remarks/{id}/settled', { ...path(remark), body: { settled } })),
    onSuccess: anew(id),
  })
  const take = useMutation({
    mutationFn: ({ remark, version }: { remark: string; version: number }) =>
      data(client.PUT('/remarks/{id}/taken', { ...path(remark), body: { version } })),
    onSuccess: (card) => {
      queryClient.setQueryData(keys.card(id), card)
      return anew(id)()
    },
    onError: anew(id),
  })
  return { edit, drop, settle, take }
}
