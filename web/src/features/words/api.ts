import { useMutation, useQuery } from '@tanstack/react-query'
import { client, data, keys, queryClient } from '../../api/client'
import { send } from '../../api/send'
import type { Ask, Game } from './model'

export const useFound = (kind: 'words' | 'made-up', ask: Ask) =>
  useQuery({
    queryKey: keys.found(kind, ask),
    queryFn: () => data(client.GET(`/${kind}`, { params: { query: ask } })),
    enabled: ask.class !== '',
    placeholderData: (before) => before,
  })

export const useLook = (classId: string, card: string, word: string) =>
  useQuery({
    queryKey: keys.look(classId, card, word),
    queryFn: () => data(client.GET('/words/look', { params: { query: { class: classId, card, word } } })),
    enabled: classId !== '' && word !== '',
  })

export type Looked = NonNullable<ReturnType<typeof useLook>['data']>

export const usePlay = (game: Game, classId: string, card: string, start: string, seed: number) =>
  useQuery({
    queryKey: keys.play(game, classId, card, start, seed),
    queryFn: () =>
      data(client.GET('/play/{game}', { params: { path: { game }, query: { class: classId, card, start, seed } } })),
    enabled: classId !== '',
    placeholderData: (before, query) => (query?.queryKey[1] === game ? before : undefined),
  })

export const useSort = (cards: string[], per: number, position: Ask['position'], seed: number) =>
  useQuery({
    queryKey: keys.sort(cards, per, position, seed),
    queryFn: () => data(client.GET('/sort', { params: { query: { cards: cards.join(','), per, position, seed } } })),
    enabled: cards.length > 1,
  })

export const useQuarters = (card: string, seed: number) =>
  useQuery({
    queryKey: keys.quarters(card, seed),
    queryFn: () => data(client.GET('/cards/{id}/first-or-last', { params: { path: { id: card }, query: { seed } } })),
    enabled: card !== '',
  })

export const useContrast = (classId: string, left: string, right: string) =>
  useQuery({
    queryKey: keys.contrast(classId, left, right),
    queryFn: () => data(client.GET('/contrast', { params: { query: { class: classId, left, right } } })),
    enabled: classId !== '' && left !== '' && right !== '',
  })

export const useUnlocks = (card: string) =>
  useQuery({
    queryKey: keys.unlocks(card),
    queryFn: () => data(client.GET('/cards/{id}/unlocks', { params: { path: { id: card } } })),
    enabled: card !== '',
    placeholderData: (before) => before,
  })

/** Takes words on to a card, or refuses them there: refused words stay refused for the whole team. */
export const useSend = (cardId: string) =>
  useMutation({
    mutationFn: async ({ words, list }: { words: string[]; list: 'words' | 'rejected' }) => {
      const path = { params: { path: { id: cardId } } }
      const card = await data(client.GET('/cards/{id}', path))
      const content = { ...card.content, [list]: [...card.content[list], ...words] }
      return data(client.PUT('/cards/{id}', { ...path, body: { base_version: card.version, content } }))
    },
    onSuccess: (after) => {
      queryClient.setQueryData(keys.card(cardId), after)
      return queryClient.invalidateQueries({ queryKey: keys.allFound })
    },
  })

/** Takes words off a list of a card again. */
export const useTakeBack = (cardId: string) =>
  useMutation({
    mutationFn: async ({ words, list }: { words: string[]; list: 'words' | 'rejected' }) => {
      const path = { params: { path: { id: cardId } } }
      const card = await data(client.GET('/cards/{id}', path))
      const content = { ...card.content, [list]: card.content[list].filter((w) => !words.includes(w)) }
      return data(client.PUT('/cards/{id}', { ...path, body: { base_version: card.version, content } }))
    },
    onSuccess: (after) => {
      queryClient.setQueryData(keys.card(cardId), after)
      return queryClient.invalidateQueries({ queryKey: keys.allFound })
    },
  })

export const useOwnPictures = () =>
  useQuery({ queryKey: keys.pictures, queryFn: () => data(client.GET('/named-pictures')) })

const afterPictures = () =>
  Promise.all(
    [keys.pictures, keys.sorts, keys.allQuarters].map((queryKey) => queryClient.invalidateQueries({ queryKey })),
  )

/** Stores a picture and gives it its names. */
export const usePutPicture = () =>
  useMutation({
    mutationFn: async ({ file, name, others }: { file: File; name: string; others: string[] }) => {
      const { picture } = await send<{ picture: string }>(
        'POST',
        '/pictures',
        file,
        file.type || 'application/octet-stream',
      )
      return data(client.PUT('/named-pictures', { body: { name, others, picture } }))
    },
    onSuccess: afterPictures,
  })

export const useArchivePicture = () =>
  useMutation({
    mutationFn: ({ name, archived }: { name: string; archived: boolean }) =>
      data(client.PUT('/named-pictures/{name}/archived', { params: { path: { name } }, body: { archived } })),
    onSuccess: afterPictures,
  })
