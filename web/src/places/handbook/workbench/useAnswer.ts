import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { client, unwrapped, type ComputeRequest } from '@/api'

/** The core's answer to a question, asked again as it is typed. */
export function useAnswer(request: ComputeRequest | null) {
  return useQuery({
    queryKey: ['compute', request],
    enabled: request !== null,
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    queryFn: async () => {
      if (request === null) throw new Error('nothing was asked')
      return unwrapped(client.POST('/api/v1/compute', { body: request }))
    },
  })
}
