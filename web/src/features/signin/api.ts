import { useMutation, useQuery } from '@tanstack/react-query'
import { client, data, keys, queryClient } from '../../api/client'
import { keepFor } from '../../api/offline'

export type SignIn = { email: string; password: string; code?: string }

/** Ways into the demo team; none where there is no demo. */
export const useDemo = () => useQuery({ queryKey: keys.demo, queryFn: () => data(client.GET('/demo')) })

export const useSignIn = () =>
  useMutation({
    mutationFn: (body: SignIn) => data(client.POST('/session', { body })),
    onSuccess: async () => {
      await keepFor('somebody new') // nothing kept for somebody else may show
      // a day begins at its own page; who came for another one goes there
      if (location.pathname === '/' && !location.search) history.replaceState(history.state, '', '/today')
      await queryClient.invalidateQueries({ queryKey: keys.me })
    },
  })

export const useComeIn = () =>
  useMutation({
    mutationFn: async (body: { code: string; state: string }) => {
      const end = await data(client.PUT('/session/provider', { body }))
      if (end.purpose !== 'connect') await keepFor('somebody new') // nothing kept for somebody else may show
      return end
    },
  })

export const useOpened = (secret: string) =>
  useQuery({
    queryKey: keys.link(secret),
    queryFn: () => data(client.POST('/welcome/look', { body: { secret } })),
    retry: false,
    staleTime: Infinity,
  })

export const useEnter = () =>
  useMutation({
    mutationFn: async (body: { secret: string; name: string; password: string; code?: string }) => {
      const done = await data(client.POST('/welcome', { body }))
      await keepFor('somebody new') // nothing kept for somebody else may show
      return done
    },
  })
