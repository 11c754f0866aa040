import { recall, remember } from '../ui/remembered'
import { queryOptions, useMutation, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { client, data, keys, queryClient, type Right, type Schemas } from './client'

const me = queryOptions({ queryKey: keys.me, queryFn: () => data(client.GET('/session')), staleTime: Infinity })
const wall = queryOptions({ queryKey: keys.wall, queryFn: () => data(client.GET('/cards')) })
const classes = queryOptions({
  queryKey: keys.classes,
  queryFn: () => data(client.GET('/classes')),
})

/** The year of a class, or what it would be if days are lost by a rule. */
export const yearOf = (id: string, ask: WhatIf = { lose: [] }) =>
  queryOptions({
    queryKey: keys.year(id, ask),
    queryFn: () => data(client.GET('/classes/{id}/year', { params: { path: { id }, query: ask } })),
  })

/**
 * Makes a call and goes on after it, also when the part of the page that asked is gone by then (a mutation drops the
 * callbacks of such a part). A failure is said where the mutation's error is shown.
 */
export const callThen = <In, Out>(call: { mutateAsync: (v: In) => Promise<Out> }, v: In, then: (out: Out) => unknown) =>
  void call.mutateAsync(v).then(then, () => undefined)

export type WhatIf = { lose: string[]; rule?: Schemas['YearSchool']['rule'] }

const needCards = ['/', '/today', '/plan', '/order', '/meeting']

/** Asks for what the first page needs all at once, before it is drawn. */
export function fetchEarly() {
  void queryClient.prefetchQuery(me)
  if (needCards.includes(location.pathname)) {
    void queryClient.prefetchQuery(wall)
    void queryClient.prefetchQuery(classes)
  }
  if (location.pathname === '/today')
    void queryClient.prefetchQuery({ queryKey: keys.today, queryFn: () => data(client.GET('/today')) })
  if (location.pathname === '/plan')
    void queryClient.fetchQuery(classes).then(
      (list) => {
        const id = list.find((c) => c.class_id === recall('wall-class'))?.class_id ?? list[0]?.class_id
        return id ? queryClient.prefetchQuery(yearOf(id)) : undefined
      },
      () => undefined,
    )
}

/** How one can sign in beside a password. */
export const useWays = () => useQuery({ queryKey: keys.ways, queryFn: () => data(client.GET('/session/ways')) })

export type Way = Schemas['WayAsk']

/** Goes to the provider, which sends the browser back to /come-in. */
export const useLeave = () =>
  useMutation({
    mutationFn: async (body: Way) => {
      const { address } = await data(client.POST('/session/provider', { body }))
      location.assign(address)
    },
  })

export const useMe = () => useQuery(me)
export const useMembers = () => useQuery({ queryKey: keys.members, queryFn: () => data(client.GET('/members')) })
export const useWall = () => useQuery(wall)
export const useClasses = () => useQuery(classes)
export const useClass = (id: string) =>
  useQuery({
    queryKey: keys.class(id),
    queryFn: () => data(client.GET('/classes/{id}', { params: { path: { id } } })),
    enabled: id !== '',
  })

/** The class that the wall and the word box work for: the one chosen last, or the first. */
export function useChosenClass() {
  const classes = useClasses()
  const [chosen, setChosen] = useState(() => recall('wall-class') ?? '')
  const classId = classes.data?.find((c) => c.class_id === chosen)?.class_id ?? classes.data?.[0]?.class_id ?? ''
  const choose = (id: string) => {
    setChosen(id)
    remember('wall-class', id)
  }
  return { classes, classId, name: classes.data?.find((c) => c.class_id === classId)?.name ?? '', choose }
}

/** The newest lessons of a class, or of all. */
export const useLessons = (classId = '') =>
  useQuery({
    queryKey: keys.lessonList(classId),
    queryFn: () => data(client.GET('/lessons', { params: { query: classId ? { class: classId } : {} } })),
  })

/** One lesson. */
export const useLesson = (id: string) =>
  useQuery({
    queryKey: keys.lesson(id),
    queryFn: () => data(client.GET('/lessons/{id}', { params: { path: { id } } })),
    enabled: id !== '',
  })

/** Puts words or a text in a step of a lesson, where they stay on renewal. */
export const useSendToLesson = () =>
  useMutation({
    mutationFn: async ({ id, step, values }: { id: string; step: string; values: string[] }) => {
      const path = { params: { path: { id } } }
      const now = await data(client.GET('/lessons/{id}', path))
      return data(
        client.POST('/lessons/{id}/edits', { ...path, body: { do: 'send', revision: now.revision, step, values } }),
      )
    },
    onSuccess: (after) => queryClient.setQueryData(keys.lesson(after.lesson_id), after),
  })

/** Accents, kinds of steps and materials: what the forms choose from. */
export const useVocabulary = () =>
  useQuery({ queryKey: keys.vocabulary, queryFn: () => data(client.GET('/vocabulary')), staleTime: Infinity })

export const mayI = (rights: readonly Right[] | undefined, right: Right) => rights?.includes(right) ?? false

/** How a sound is written, or what a spelling says. */
export const useSpellings = (of: string) =>
  useQuery({
    queryKey: keys.spellings(of),
    queryFn: () => data(client.GET('/spellings', { params: { query: { of } } })),
    placeholderData: (before) => before,
  })

/** All texts of the team's bank, for no class in particular. */
export const useBankTexts = () =>
  useQuery({
    queryKey: keys.bank(''),
    queryFn: () => data(client.GET('/bank', { params: { query: { class: '' } } })),
  })
