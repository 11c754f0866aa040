import { useMutation, useQuery } from '@tanstack/react-query'
import { client, data, keys, queryClient, type Schemas } from '../../api/client'

export type Sheet = Schemas['MeetingSheet']
export type Shaky = Schemas['Shaky']
export type GroupAsk = Schemas['GroupAsk']

export const useMeeting = () => useQuery({ queryKey: keys.meeting, queryFn: () => data(client.GET('/meeting')) })

export const useMemory = () => useQuery({ queryKey: keys.memory, queryFn: () => data(client.GET('/memory')) })

const anew = () => queryClient.invalidateQueries({ queryKey: keys.classes })

export const useFit = () => useMutation({ mutationFn: () => data(client.POST('/memory/fit')), onSuccess: anew })

export const useForgetFit = () => useMutation({ mutationFn: () => data(client.DELETE('/memory/fit')), onSuccess: anew })

export const useShakiest = (classes: string[]) =>
  useQuery({
    queryKey: keys.shaky(classes),
    queryFn: () => data(client.GET('/shaky', { params: { query: { classes } } })),
    enabled: classes.length > 0,
  })

export const useNewGroup = () =>
  useMutation({ mutationFn: (body: GroupAsk) => data(client.POST('/groups', { body })), onSuccess: anew })
