import { useMutation, useQuery } from '@tanstack/react-query'
import { CallError, client, data, keys, queryClient, type Problem, type Schemas } from '../../api/client'

export type OrderView = Schemas['OrderView']
export type OrderLook = Schemas['OrderLook']
export type OrderStep = Schemas['OrderStep']
export type OrderSum = Schemas['OrderSum']
export type Proposal = Schemas['StoreProposal']
export type Search = Schemas['Search']
export type Weights = Search['weights']
export type Table = Schemas['OrderTable']
export type Found = { order: string[]; moves: { pair: string; from: number; to: number; because: string }[] }
export type Part = { done: number; sum: number }

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

type Line = { part?: Part; found?: Found; problem?: Partial<Problem> }

/** Looks for a better order, and tells how far it has come; the signal ends the search. */
export async function search(body: Search, tell: (part: Part) => void, signal: AbortSignal): Promise<Found> {
  const answer = await fetch('/api/order/improve', {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify(body),
    signal,
  }).catch((e: unknown) => {
    if (signal.aborted) throw e
    throw new CallError(0, {})
  })
  if (!answer.ok || !answer.body)
    throw new CallError(answer.status, (await answer.json().catch(() => ({}))) as Partial<Problem>)
  const reader = answer.body.pipeThrough(new TextDecoderStream()).getReader()
  let rest = ''
  for (;;) {
    const { done, value } = await reader.read()
    if (done) throw new CallError(0, {})
    const lines = (rest + value).split('\n')
    rest = lines.pop() ?? ''
    for (const text of lines) {
      const line = JSON.parse(text) as Line
      if (line.part) tell(line.part)
      if (line.problem) throw new CallError(line.problem.status ?? 500, line.problem)
      if (line.found) return line.found
    }
  }
}
