import { useMutation, useQuery } from '@tanstack/react-query'
import { client, data, keys, queryClient, type Schemas } from '../../api/client'

export type OwnWord = Schemas['OwnWordView']
export type Tried = Schemas['TriedWord']
export type Use = Schemas['Use']
export type Book = Schemas['Book']
type Asked = Schemas['ConventionOwnWord']

export const useOwnWords = () => useQuery({ queryKey: keys.ownWords, queryFn: () => data(client.GET('/stock/words')) })

export const useTry = () =>
  useMutation({ mutationFn: (body: Asked) => data(client.POST('/stock/words/try', { body })) })

/** How words are said changes what can be read on every page. */
const anew = () => queryClient.invalidateQueries()

export const usePutWord = () =>
  useMutation({ mutationFn: (body: Asked) => data(client.PUT('/stock/words', { body })), onSuccess: anew })

export const useDropWord = () =>
  useMutation({
    mutationFn: (word: string) => data(client.DELETE('/stock/words/{word}', { params: { path: { word } } })),
    onSuccess: anew,
  })

export const useUses = (what: string, withThis: string) =>
  useQuery({
    queryKey: keys.uses(what, withThis),
    queryFn: () => data(client.GET('/stock/uses', { params: { query: { what, with: withThis } } })),
    placeholderData: (before) => before,
    enabled: what !== '',
  })

export const useReplace = () =>
  useMutation({
    mutationFn: (body: { what: string; with: string; keys: string[] }) => data(client.POST('/stock/replace', { body })),
    onSuccess: anew,
  })

export const useBooks = (classId: string) =>
  useQuery({
    queryKey: keys.books(classId),
    queryFn: () => data(client.GET('/classes/{id}/books', { params: { path: { id: classId } } })),
    enabled: classId !== '',
  })

export const useAddPage = () =>
  useMutation({
    mutationFn: (p: { book: string; page: number; body: string }) =>
      data(client.POST('/bank', { body: { kind: 'page', ...p } })),
    onSuccess: anew,
  })
