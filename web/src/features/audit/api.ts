import { useMutation, useQuery } from '@tanstack/react-query'
import { client, data, keys, queryClient, type Schemas } from '../../api/client'

export type Finding = Schemas['AuditFinding']

export const useAudit = () => useQuery({ queryKey: keys.audit, queryFn: () => data(client.GET('/audit')) })

const path = (key: string) => ({ params: { path: { key } } })
const anew = () => queryClient.invalidateQueries({ queryKey: keys.wall })

export const useMend = () =>
  useMutation({
    mutationFn: (key: string) => data(client.POST('/audit/{key}/mend', path(key))),
    onSuccess: anew,
    onError: anew,
  })

export const useLeave = () =>
  useMutation({
    mutationFn: ({ key, why }: { key: string; why: string }) =>
      data(client.PUT('/audit/{key}/left', { ...path(key), body: { why } })),
    onSuccess: anew,
  })

export const useTakeUp = () =>
  useMutation({
    mutationFn: (key: string) => data(client.DELETE('/audit/{key}/left', path(key))),
    onSuccess: anew,
  })
