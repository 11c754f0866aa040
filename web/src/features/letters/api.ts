import { useMutation, useQuery } from '@tanstack/react-query'
import { client, data, keys, queryClient, type Content } from '../../api/client'
import type { DrawnLetter } from './model'

export const useLetters = (text: string, words: string[]) =>
  useQuery({
    queryKey: keys.letter(text, words),
    queryFn: () => data(client.GET('/letters', { params: { query: { text, ...(words.length ? { words } : {}) } } })),
    placeholderData: (before) => (before?.text === text ? before : undefined),
  })

export const useShown = (letter: DrawnLetter | undefined) =>
  useQuery({
    queryKey: keys.drawn(letter),
    queryFn: () => data(client.POST('/letters/show', { body: letter! })),
    enabled: Boolean(letter),
    placeholderData: (before) => before,
  })

const refresh = () => queryClient.invalidateQueries({ queryKey: keys.letters })
export const useLetterCalls = () => ({
  save: useMutation({ mutationFn: (l: DrawnLetter) => data(client.PUT('/letters', { body: l })), onSuccess: refresh }),
  reset: useMutation({
    mutationFn: (sign: string) => data(client.DELETE('/letters', { params: { query: { sign } } })),
    onSuccess: refresh,
  }),
})

export const useCardOf = (id: string) =>
  useQuery({
    queryKey: keys.card(id),
    queryFn: () => data(client.GET('/cards/{id}', { params: { path: { id } } })),
    enabled: id !== '',
  })

export const useSaveCard = (id: string) =>
  useMutation({
    mutationFn: (v: { base: number; content: Content }) =>
      data(client.PUT('/cards/{id}', { params: { path: { id } }, body: { base_version: v.base, content: v.content } })),
    onSuccess: () => Promise.all([refresh(), queryClient.invalidateQueries({ queryKey: keys.card(id) })]),
  })
