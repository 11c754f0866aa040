import { useMutation, useQuery } from '@tanstack/react-query'
import { client, data, keys, queryClient, type Conventions, type Schemas } from '../../api/client'

export type RoutineView = Schemas['RoutineView']

export const useRoutines = () => useQuery({ queryKey: keys.routines, queryFn: () => data(client.GET('/routines')) })

/** What is agreed changes everything that was asked for before. */
export const useAgree = () =>
  useMutation({
    mutationFn: (body: Conventions) => data(client.PUT('/conventions', { body })),
    onSuccess: () => queryClient.invalidateQueries(),
  })

export const useAgreeRoutine = () =>
  useMutation({
    mutationFn: (body: RoutineView) => data(client.PUT('/routines', { body })),
    onSuccess: () => queryClient.invalidateQueries({ queryKey: keys.routines }),
  })

/** The cards that another accent would change. */
export const useAccentChanges = (accent: string, wanted: boolean) =>
  useQuery({
    queryKey: keys.accentChanges(accent),
    queryFn: () => data(client.GET('/accents/{accent}/changes', { params: { path: { accent } } })),
    enabled: wanted,
  })

export type NewClass = Schemas['NewClass']

export const useAddClass = (after: () => void) =>
  useMutation({
    mutationFn: (body: NewClass) => data(client.POST('/classes', { body })),
    onSuccess: () => {
      after()
      return queryClient.invalidateQueries({ queryKey: keys.classes })
    },
  })

export const useMembers = () => useQuery({ queryKey: keys.members, queryFn: () => data(client.GET('/members')) })

export type NewMember = Schemas['Invited']

export const useInvite = (after: () => void) =>
  useMutation({
    mutationFn: (body: NewMember) => data(client.POST('/members', { body })),
    onSuccess: () => {
      after()
      return queryClient.invalidateQueries({ queryKey: keys.members })
    },
  })
