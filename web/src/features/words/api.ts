import { useMutation, useQuery } from '@tanstack/react-query'
import { client, data, keys, queryClient } from '../../api/client'

export type Ask = { class: string; card: string; position: 'any' | 'initial' | 'medial' | 'final'; frame: string; pictures: boolean; seed: number }

export const useFound = (kind: 'words' | 'made-up', ask: Ask) =>
  useQuery({
    queryKey: ['found', kind, ask],
    queryFn: () => data(client.GET(`/${kind}`, { params: { query: ask } })),
    enabled: ask.class !== '',
    placeholderData: (before) => before,
  })

export const useSort = (cards: string[], per: number, position: 'initial' | 'medial' | 'final', seed: number) =>
  useQuery({
    queryKey: ['sort', cards, per, position, seed],
    queryFn: () => data(client.GET('/sort', { params: { query: { cards: cards.join(','), per, position, seed } } })).then((d) => d ?? []),
    enabled: cards.length > 1,
  })

export const useCheck = (classId: string, text: string) =>
  useQuery({
    queryKey: ['check', classId, text],
    queryFn: () => data(client.POST('/check-text', { body: { class_id: classId, text } })),
    enabled: classId !== '' && text.trim() !== '',
    placeholderData: (before) => before,
  })

/** Takes a word on to a card, or refuses it there: refused words stay refused for the whole team. */
export const useSend = (cardId: string) =>
  useMutation({
    mutationFn: async ({ word, list }: { word: string; list: 'words' | 'rejected' }) => {
      const path = { params: { path: { id: cardId } } }
      const card = await data(client.GET('/cards/{id}', path))
      const content = { ...card.content, [list]: [...(card.content[list] ?? []), word] }
      return data(client.PUT('/cards/{id}', { ...path, body: { base_version: card.version, content } }))
    },
    onSuccess: (after) => {
      queryClient.setQueryData(keys.card(cardId), after)
      return queryClient.invalidateQueries({ queryKey: ['found'] })
    },
  })
