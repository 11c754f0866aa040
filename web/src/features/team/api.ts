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
export const useAccountEvents = () =>
  useQuery({ queryKey: keys.accountEvents, queryFn: () => data(client.GET('/account-events')) })

export type Person = Schemas['Person']
export type AccountEvent = Schemas['StoreEventRow']
export type NewMember = Schemas['Invited']

const people = (after?: () => void) => () => {
  after?.()
  return queryClient.invalidateQueries({ queryKey: keys.members })
}

export const useInvite = (after: () => void) =>
  useMutation({
    mutationFn: (body: NewMember) => data(client.POST('/members', { body })),
    onSuccess: people(after),
  })

/** A lead's changes of somebody's account. */
export const useSetRole = (id: string) =>
  useMutation({
    mutationFn: (role: Person['role']) =>
      data(client.PUT('/members/{id}/role', { params: { path: { id } }, body: { role } })),
    onSuccess: people(),
  })

export const useResetPassword = (id: string, after: () => void) =>
  useMutation({
    mutationFn: (password: string) =>
      data(client.PUT('/members/{id}/password', { params: { path: { id } }, body: { password } })),
    onSuccess: people(after),
  })

export const useRemovePerson = (id: string) =>
  useMutation({
    mutationFn: () => data(client.DELETE('/members/{id}', { params: { path: { id } } })),
    onSuccess: people(),
  })

export const useOwnPassword = (after: () => void) =>
  useMutation({
    mutationFn: (body: Schemas['Passwords']) => data(client.PUT('/session/password', { body })),
    onSuccess: people(after),
  })
