import { useMutation, useQuery } from '@tanstack/react-query'
import { client, data, queryClient, keys } from '../../api/client'

export const useCheck = (classId: string, text: string) =>
  useQuery({
    queryKey: keys.check(classId, text),
    queryFn: () => data(client.POST('/check-text', { body: { class_id: classId, text } })),
    enabled: classId !== '' && text.trim() !== '',
    placeholderData: (before) => before,
  })

export const useBank = (classId: string) =>
  useQuery({
    queryKey: keys.bank(classId),
    queryFn: () => data(client.GET('/bank', { params: { query: { class: classId } } })),
  })

export const useMade = (classId: string, card: string, seed: number) =>
  useQuery({
    queryKey: keys.made(classId, card, seed),
    queryFn: () => data(client.GET('/sentences', { params: { query: { class: classId, card, seed } } })),
    enabled: classId !== '',
    placeholderData: (before) => before,
  })

export const useChop = () =>
  useMutation({ mutationFn: (text: string) => data(client.POST('/chop', { body: { text } })) })

export const useKeep = () =>
  useMutation({
    mutationFn: (body: { kind: 'sentence' | 'page'; body: string }) => data(client.POST('/bank', { body })),
    onSuccess: () => queryClient.invalidateQueries({ queryKey: keys.banks }),
  })

export const useDrop = () =>
  useMutation({
    mutationFn: ({ id, archived }: { id: string; archived: boolean }) =>
      data(client.PUT('/bank/{id}/archived', { params: { path: { id } }, body: { archived } })),
    onSuccess: () => queryClient.invalidateQueries({ queryKey: keys.banks }),
  })
