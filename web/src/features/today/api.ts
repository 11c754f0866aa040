import { useMutation, useQuery } from '@tanstack/react-query'
import { client, data, keys, queryClient, type Schemas } from '../../api/client'

export type TodayView = Schemas['TodayView']
export type ClassToday = Schemas['ClassToday']
export type Notice = Schemas['StoreNotice']

export const useToday = () => useQuery({ queryKey: keys.today, queryFn: () => data(client.GET('/today')) })

const anew = () => queryClient.invalidateQueries({ queryKey: keys.today })

/** Says that the changes up to a time have been looked at. */
export const useLooked = () =>
  useMutation({
    mutationFn: (until: string) => data(client.PUT('/today/looked', { body: { until } })),
    onSuccess: anew,
  })

export const useSeen = () =>
  useMutation({
    mutationFn: (up_to: number) => data(client.PUT('/notices/seen', { body: { up_to } })),
    onSuccess: anew,
  })

/** Makes the lesson that comes next in the plan of a class. */
export const useMakeNext = () =>
  useMutation({
    mutationFn: (body: Schemas['LessonAsk']) => data(client.POST('/lessons', { body })),
    onSuccess: (made) => {
      queryClient.setQueryData(keys.lesson(made.lesson_id), made)
      void anew()
      return queryClient.invalidateQueries({ queryKey: ['lessons', 'list'] })
    },
  })
