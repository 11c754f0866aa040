import { useInfiniteQuery, useMutation, useQuery } from '@tanstack/react-query'
import { client, data, keys, queryClient, type CardView, type Content, type Schemas } from '../../api/client'
import { send } from '../../api/send'

const path = (id: string) => ({ params: { path: { id } } })

export const useCard = (id: string, enabled: boolean) =>
  useQuery({ queryKey: keys.card(id), queryFn: () => data(client.GET('/cards/{id}', path(id))), enabled })
/** Asks for what stands on a card by now. */
export const cardAnew = (id: string) => queryClient.refetchQueries({ queryKey: keys.card(id), exact: true })

export const useFlags = (id: string, words: string[]) =>
  useQuery({
    queryKey: keys.flags(id, words),
    queryFn: () => data(client.GET('/cards/{id}/flags', { params: { path: { id }, query: { words } } })),
    enabled: words.length > 0,
    placeholderData: (before) => before,
  })

export const useOffer = (id: string) =>
  useQuery({ queryKey: keys.offer(id), queryFn: () => data(client.GET('/cards/{id}/words', path(id))) })
/** How many versions come at once. */
const versionPage = 50

export const useVersions = (id: string) =>
  useInfiniteQuery({
    queryKey: keys.versions(id),
    queryFn: ({ pageParam: before }) =>
      data(client.GET('/cards/{id}/versions', { params: { path: { id }, query: { before } } })),
    initialPageParam: 0,
    getNextPageParam: (last) => (last.length < versionPage ? undefined : last.at(-1)?.version),
  })

export const useVersion = (id: string, version: number) =>
  useQuery({
    queryKey: keys.version(id, version),
    queryFn: () => data(client.GET('/cards/{id}/versions/{version}', { params: { path: { id, version } } })),
    staleTime: Infinity,
  })

export const useSegments = (words: string) =>
  useQuery({
    queryKey: keys.segments(words),
    queryFn: () => data(client.GET('/segment', { params: { query: { words } } })),
    enabled: words !== '',
    placeholderData: (before) => before,
  })

export const saveCard = (id: string, base: number, content: Content) =>
  data(client.PUT('/cards/{id}', { ...path(id), body: { base_version: base, content } }))

export const useSetState = (id: string) =>
  useMutation({
    mutationFn: (state: CardView['state']) => data(client.PUT('/cards/{id}/state', { ...path(id), body: { state } })),
    onSuccess: (card) => {
      queryClient.setQueryData(keys.card(id), card)
      return Promise.all([
        queryClient.invalidateQueries({ queryKey: keys.versions(id) }),
        queryClient.invalidateQueries({ queryKey: keys.review(id) }),
        queryClient.invalidateQueries({ queryKey: keys.wall, exact: true }),
      ])
    },
  })

/** What is said of a card, and how far it has come. */
export const useTalk = (id: string) =>
  useQuery({ queryKey: keys.review(id), queryFn: () => data(client.GET('/cards/{id}/review', path(id))) })

export const useMove = (id: string) =>
  useMutation({
    mutationFn: (step: number) => data(client.PUT('/cards/{id}/step', { ...path(id), body: { step } })),
    onSuccess: () => queryClient.invalidateQueries({ queryKey: keys.wall }),
  })

export const sendPicture = (file: Blob) =>
  send<{ picture: string; remarks: string[] }>('POST', '/pictures', file, file.type || 'application/octet-stream')

export type OriginOf = Schemas['OriginView']

export const useOrigin = (sum: string) =>
  useQuery({
    queryKey: keys.origin(sum),
    queryFn: () => data(client.GET('/pictures/{sum}/origin', { params: { path: { sum } } })),
  })

export const useSetOrigin = (sum: string) =>
  useMutation({
    mutationFn: (body: { maker: string; licence: string }) =>
      data(client.PUT('/pictures/{sum}/origin', { params: { path: { sum } }, body })),
    onSuccess: () => queryClient.invalidateQueries({ queryKey: keys.origin(sum) }),
  })

/** The row of the spelling table for a pair: how common it is and where it stands. */
export const useSpelling = (pair: { grapheme: string; sound: string }) =>
  useQuery({
    queryKey: keys.spellings(pair.grapheme),
    queryFn: () => data(client.GET('/spellings', { params: { query: { of: pair.grapheme } } })),
    select: (rows) => rows.find((r) => r.grapheme === pair.grapheme && r.sound === pair.sound),
    staleTime: Infinity,
  })

/** The letters of a card on the team's lines. */
export const useWritten = (text: string) =>
  useQuery({
    queryKey: keys.letter(text, []),
    queryFn: () => data(client.GET('/letters', { params: { query: { text } } })),
  })

/** How the mouth makes the card's sound; a sound without a drawing has none. */
export const useMouth = (id: string, version: number) =>
  useQuery({
    queryKey: keys.mouth(id, version),
    queryFn: () => data(client.GET('/cards/{id}/mouth', path(id))),
    retry: false,
    staleTime: Infinity,
  })
