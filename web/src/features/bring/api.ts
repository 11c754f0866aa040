import { useMutation, useQuery } from '@tanstack/react-query'
import { client, data, keys, queryClient, type Schemas } from '../../api/client'
import { send } from '../../api/send'

export type Parcel = Schemas['StoreParcel']
export type BundleView = Schemas['BundleView']
export type CardLine = Schemas['BundleCardLine']
export type Choice = Schemas['BundleChoice']
export type TableView = Schemas['TableView']
export type TableLine = Schemas['TableLine']
export type TableAsk = Schemas['TableAsk']

const path = (id: string) => ({ params: { path: { id } } })

export const useParcels = () => useQuery({ queryKey: keys.parcels, queryFn: () => data(client.GET('/parcels')) })

export const useBring = () =>
  useMutation({
    mutationFn: async (file: File) => {
      const bytes = await file.arrayBuffer().catch(() => {
        throw new Error('The file cannot be read. Is it open elsewhere, or has it moved?')
      })
      return send<Parcel>('POST', `/parcels?name=${encodeURIComponent(file.name)}`, bytes, 'application/octet-stream')
    },
    onSuccess: () => queryClient.invalidateQueries({ queryKey: keys.parcels, exact: true }),
  })

export const useDrop = () =>
  useMutation({
    mutationFn: (id: string) => data(client.DELETE('/parcels/{id}', path(id))),
    onSuccess: () => queryClient.invalidateQueries({ queryKey: keys.parcels, exact: true }),
  })

export const useBundle = (id: string, enabled: boolean) =>
  useQuery({
    queryKey: keys.parcelBundle(id),
    queryFn: () => data(client.GET('/parcels/{id}/bundle', path(id))),
    enabled,
  })

/** What was taken is seen on every page. */
const anew = () => queryClient.invalidateQueries()

export const useTakeBundle = (id: string) =>
  useMutation({
    mutationFn: (body: Choice) => data(client.POST('/parcels/{id}/bundle', { ...path(id), body })),
    onSuccess: anew,
    onError: () => queryClient.invalidateQueries({ queryKey: keys.parcelBundle(id) }),
  })

export const useTable = (id: string, ask: TableAsk, enabled: boolean) =>
  useQuery({
    queryKey: keys.parcelTable(id, ask),
    queryFn: () => data(client.POST('/parcels/{id}/table/look', { ...path(id), body: ask })),
    placeholderData: (before) => before,
    enabled,
  })

export const useTakeTable = (id: string) =>
  useMutation({
    mutationFn: (body: Schemas['TableChoice']) => data(client.POST('/parcels/{id}/table', { ...path(id), body })),
    onSuccess: anew,
  })

export const useProposeOrder = () =>
  useMutation({
    mutationFn: (p: { order: string[]; note: string }) => data(client.POST('/order/proposals', { body: p })),
    onSuccess: () => queryClient.invalidateQueries({ queryKey: keys.order }),
  })

/** The address of a picture or a sound of a bundle. */
export const fileOf = (id: string, name: string) => `/api/parcels/${id}/file?name=${encodeURIComponent(name)}`
