import { useMutation, useQuery } from '@tanstack/react-query'
import { client, data, keys, queryClient, type Schemas } from '../../api/client'

export type OrderView = Schemas['OrderView']
export type OrderLook = Schemas['OrderLook']
export type OrderStep = Schemas['OrderStep']
export type Proposal = Schemas['StoreProposal']
type Search = Schemas['Search']
export type Weights = Search['weights']
export type Table = Schemas['OrderTable']
export type Found = Schemas['FoundOrder']

export const useOrder = () => useQuery({ queryKey: keys.order, queryFn: () => data(client.GET('/order')) })

/** An order judged beside the one that stands; the former answer stays until the new one is there. */
export const useLook = (order: string[] | undefined) =>
  useQuery({
    queryKey: keys.orderLook(order ?? []),
    queryFn: () => data(client.POST('/order/look', { body: { order: order ?? [] } })),
    enabled: order !== undefined,
    placeholderData: (before) => before,
  })

export const useSentences = (order: string[] | undefined) =>
  useQuery({
    queryKey: keys.orderSentences(order ?? []),
    queryFn: ({ signal }) => data(client.POST('/order/sentences', { body: { order: order ?? [] }, signal })),
    enabled: order !== undefined,
    placeholderData: (before) => before,
  })

const anew = () =>
  Promise.all([
    queryClient.invalidateQueries({ queryKey: keys.wall }),
    queryClient.invalidateQueries({ queryKey: keys.classes }),
  ])

export const propose = (order: string[], note: string) =>
  data(client.POST('/order/proposals', { body: { order, note } }))

export const decide = async (id: string, agree: boolean) => {
  await data(client.PUT('/order/proposals/{id}', { params: { path: { id } }, body: { agree } }))
  await anew()
}

export const usePropose = () =>
  useMutation({
    mutationFn: (p: { order: string[]; note: string }) => propose(p.order, p.note),
    onSuccess: () => queryClient.invalidateQueries({ queryKey: keys.order, exact: true }),
  })

export const useDecide = () => useMutation({ mutationFn: (d: { id: string; agree: boolean }) => decide(d.id, d.agree) })

export const useReadTable = () =>
  useMutation({
    mutationFn: (body: Schemas['GivenTable']) => data(client.POST('/order/table', { body })),
  })
