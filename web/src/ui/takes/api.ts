import { useMutation, useQuery } from '@tanstack/react-query'
import { client, data, keys, queryClient, type Schemas, type Take } from '../../api/client'
import { send } from '../../api/send'
import { decodedHertz } from './model'

const path = (id: string) => ({ params: { path: { id } } })

export const useTakes = (id: string) =>
  useQuery({
    queryKey: keys.takes(id),
    queryFn: () => data(client.GET('/cards/{id}/takes', path(id))),
  })
export const useShelf = () => useQuery({ queryKey: keys.sounds, queryFn: () => data(client.GET('/sounds')) })

/** The take as the library plays it; the address changes with its fixes. */
export const soundOf = (t: Take) =>
  `/api/takes/${t.take_id}/sound?v=${t.trim.start_ms}-${t.trim.end_ms}-${t.plain ? 'plain' : 'fixed'}`
export const cardSound = (cardId: string, takeId = '') => `/api/cards/${cardId}/sound?take=${takeId}`

async function decode(takeId: string): Promise<Float32Array> {
  const answer = await fetch(`/api/takes/${takeId}/original`)
  if (!answer.ok) throw new Error('The sound is not here.')
  const context = new OfflineAudioContext(1, 1, decodedHertz)
  return (await context.decodeAudioData(await answer.arrayBuffer())).getChannelData(0)
}

/** The samples of a take as it was recorded; they never change. */
export const useSamples = (takeId: string) =>
  useQuery({ queryKey: keys.samples(takeId), queryFn: () => decode(takeId), staleTime: Infinity })

export type NewTake = { cardId: string; wav: BodyInit; speaker: string; consent: boolean }
export type Fixes = Schemas['Fixes']

const refresh = () => queryClient.invalidateQueries({ queryKey: keys.wall })

/** Calls on the takes of any card. */
export const useTakeCalls = () => ({
  add: useMutation({
    mutationFn: (t: NewTake) =>
      send<Take[]>(
        'POST',
        `/cards/${t.cardId}/takes?speaker=${encodeURIComponent(t.speaker)}&consent=${t.consent ? 'yes' : 'no'}`,
        t.wav,
        'application/octet-stream',
      ),
    onSuccess: refresh,
  }),
  choose: useMutation({
    mutationFn: (takeId: string) => data(client.PUT('/takes/{id}/chosen', path(takeId))),
    onSuccess: refresh,
  }),
  fix: useMutation({
    mutationFn: (t: { takeId: string; fixes: Fixes }) =>
      data(client.PUT('/takes/{id}/fixes', { ...path(t.takeId), body: t.fixes })),
    onSuccess: refresh,
  }),
  reuse: useMutation({
    mutationFn: (t: { cardId: string; takeId: string }) =>
      data(client.PUT('/cards/{id}/take', { ...path(t.cardId), body: { take_id: t.takeId } })),
    onSuccess: refresh,
  }),
})

export type RoomReport = Schemas['RecordingRoomReport']

/** Judges the room and the microphone; nothing of the sound is kept. */
export const checkRoom = (wav: ArrayBuffer) => send<RoomReport>('POST', '/room', wav, 'application/octet-stream')

export const useWithdrawVoice = () =>
  useMutation({
    mutationFn: (speaker: string) => data(client.POST('/voices/withdraw', { body: { speaker } })),
    onSuccess: refresh,
  })
