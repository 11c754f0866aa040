import { useMutation, useQuery } from '@tanstack/react-query'
import { client, data, keys, queryClient } from '../../api/client'
import { keepFor } from '../../api/offline'

export type SignIn = { email: string; password: string }

/** Ways into the demo team; none where there is no demo. */
export const useDemo = () => useQuery({ queryKey: keys.demo, queryFn: () => data(client.GET('/demo')) })

export const useSignIn = () =>
  useMutation({
    mutationFn: (body: SignIn) => data(client.POST('/session', { body })),
    onSuccess: async () => {
      await keepFor('somebody new') // nothing kept for somebody else may show
      await queryClient.invalidateQueries({ queryKey: keys.me })
    },
  })
