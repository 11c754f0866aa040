import { useMutation } from '@tanstack/react-query'
import { client, data } from '../../api/client'

export const useAddCard = () =>
  useMutation({ mutationFn: (body: { pair: string; step: number }) => data(client.POST('/cards', { body })) })
