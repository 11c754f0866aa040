import { useMutation, useQuery } from '@tanstack/react-query'
import { client, data, keys, queryClient, type Schemas } from '../../api/client'
import { send } from '../../api/send'
import { yearOf, type WhatIf } from '../../api/shared'

export type ClassYear = Schemas['ClassYear']
export type YearWeek = Schemas['YearWeek']
export type YearDay = Schemas['YearDay']
export type SchoolYear = Schemas['SchoolYear']
export type School = Schemas['YearSchool']
export type Rule = School['rule']
export type Forecast = Schemas['Forecast']
export type DaysOff = Schemas['DaysOffView']
export type Loss = Schemas['Loss']

export const useYear = (id: string, ask: WhatIf = { lose: [] }) =>
  useQuery({
    ...yearOf(id, ask),
    enabled: id !== '',
    placeholderData: (before) => before,
    retry: ask.lose.length === 0,
  })

export const useForecast = (id: string, ask: { lose_week: string; per_week: number }) =>
  useQuery({
    queryKey: keys.forecast(id, ask),
    queryFn: () => data(client.GET('/classes/{id}/forecast', { params: { path: { id }, query: ask } })),
    enabled: id !== '',
    placeholderData: (before) => before,
  })

export const useSchoolYear = () =>
  useQuery({ queryKey: keys.schoolYear, queryFn: () => data(client.GET('/school-year')) })

/** What a plan changes shows on the pages of classes and lessons too. */
const anew = () => queryClient.invalidateQueries({ queryKey: keys.classes })

export const useSetSchoolYear = () =>
  useMutation({
    mutationFn: (body: SchoolYear) => data(client.PUT('/school-year', { body })),
    onSuccess: anew,
  })

export const useReadDaysOff = () =>
  useMutation({
    mutationFn: (file: File) =>
      send<DaysOff>('POST', '/school-year/days-off', file, file.type || 'application/octet-stream'),
  })

export const useSetPace = (id: string) =>
  useMutation({
    mutationFn: (body: Schemas['NewPace']) =>
      data(client.PUT('/classes/{id}/pace', { params: { path: { id } }, body })),
    onSuccess: anew,
  })

export const loseDay = async (id: string, body: Loss) => {
  await data(client.POST('/classes/{id}/lost', { params: { path: { id } }, body }))
  await anew()
}

export const useLoseDay = (id: string) => useMutation({ mutationFn: (body: Loss) => loseDay(id, body) })

export const useNewFeed = (id: string) =>
  useMutation({
    mutationFn: () => data(client.POST('/classes/{id}/feed', { params: { path: { id } } })),
    onSuccess: anew,
  })

export const useEndFeed = (id: string) =>
  useMutation({
    mutationFn: () => data(client.DELETE('/classes/{id}/feed', { params: { path: { id } } })),
    onSuccess: anew,
  })
