import type { paths } from '../../api/schema'
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

export type Move = Schemas['MoveUp']

export const usePastClasses = () =>
  useQuery({ queryKey: keys.pastClasses, queryFn: () => data(client.GET('/past-classes')) })

export const useMoveUp = () =>
  useMutation({
    mutationFn: (moves: Move[]) => data(client.POST('/past-classes', { body: { moves } })),
    onSuccess: () => queryClient.invalidateQueries(),
  })

export const useBringBack = () =>
  useMutation({
    mutationFn: (id: string) =>
      data(client.PUT('/classes/{id}/archived', { params: { path: { id } }, body: { archived: false } })),
    onSuccess: () => queryClient.invalidateQueries(),
  })

export type EventAsk = NonNullable<paths['/account-events']['get']['parameters']['query']>

export const useAccountEvents = (ask: EventAsk) =>
  useQuery({
    queryKey: keys.accountEvents(ask),
    queryFn: () => data(client.GET('/account-events', { params: { query: ask } })),
    placeholderData: (before) => before,
  })

export const useSecond = () => useQuery({ queryKey: keys.second, queryFn: () => data(client.GET('/session/second')) })

export const secondAnew = () =>
  Promise.all([
    queryClient.invalidateQueries({ queryKey: keys.second }),
    queryClient.invalidateQueries({ queryKey: keys.members }),
  ])

export const useBeginSecond = () => useMutation({ mutationFn: () => data(client.POST('/session/second')) })

/** The codes for when the phone is gone are shown before the page asks anew whether it is on. */
export const useConfirmSecond = () =>
  useMutation({ mutationFn: (code: string) => data(client.PUT('/session/second', { body: { code } })) })

export const useDropSecond = (id: string) =>
  useMutation({
    mutationFn: (password: string) =>
      data(client.PUT('/members/{id}/second/off', { params: { path: { id } }, body: { password } })),
    onSuccess: secondAnew,
  })

export const useProvider = () =>
  useQuery({ queryKey: keys.provider, queryFn: () => data(client.GET('/session/provider')) })

export const useDisconnect = () =>
  useMutation({
    mutationFn: () => data(client.DELETE('/session/provider')),
    onSuccess: () => queryClient.invalidateQueries({ queryKey: keys.provider }),
  })

export const useMailWish = () => useQuery({ queryKey: keys.mail, queryFn: () => data(client.GET('/session/mail')) })

export const useSetMailWish = () =>
  useMutation({
    mutationFn: (wanted: boolean) => data(client.PUT('/session/mail', { body: { wanted } })),
    onSuccess: () => queryClient.invalidateQueries({ queryKey: keys.mail }),
  })

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

export type Asking = Schemas['Invitation']
export type NewLink = Schemas['NewLink']

export const useLinks = () => useQuery({ queryKey: keys.links, queryFn: () => data(client.GET('/links')) })

const links = () => queryClient.invalidateQueries({ queryKey: keys.links })

export const useInviteByLink = () =>
  useMutation({ mutationFn: (body: Asking) => data(client.POST('/links', { body })), onSuccess: links })

export const useResetByLink = (id: string) =>
  useMutation({
    mutationFn: () => data(client.POST('/members/{id}/link', { params: { path: { id } } })),
    onSuccess: links,
  })

export const useEndLink = () =>
  useMutation({
    mutationFn: (id: string) => data(client.DELETE('/links/{id}', { params: { path: { id } } })),
    onSuccess: links,
  })

export const usePause = (id: string) =>
  useMutation({
    mutationFn: (paused: boolean) =>
      data(client.PUT('/members/{id}/paused', { params: { path: { id } }, body: { paused } })),
    onSuccess: people(),
  })

export const useOwnSessions = () =>
  useQuery({ queryKey: keys.ownSessions, queryFn: () => data(client.GET('/session/all')), staleTime: 0 })

const sessions = () => queryClient.invalidateQueries({ queryKey: keys.ownSessions })

export const useEndSession = () =>
  useMutation({
    mutationFn: (id: string) => data(client.DELETE('/session/all/{id}', { params: { path: { id } } })),
    onSuccess: sessions,
  })

export const useEndOthers = () =>
  useMutation({ mutationFn: () => data(client.DELETE('/session/all')), onSuccess: sessions })

export const useFormer = () => useQuery({ queryKey: keys.former, queryFn: () => data(client.GET('/former-members')) })

export const useErase = () =>
  useMutation({
    mutationFn: (id: string) => data(client.DELETE('/former-members/{id}', { params: { path: { id } } })),
    onSuccess: () => queryClient.invalidateQueries(),
  })
