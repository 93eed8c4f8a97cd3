import { useQuery } from '@tanstack/react-query'
import { client, unwrapped, type ComputeRequest } from '@/api'

/** The core's answer to a question about a solution. */
export function useCompute(question: ComputeRequest | null) {
  return useQuery({
    queryKey: ['compute', question],
    enabled: question !== null,
    retry: false,
    queryFn: async () => {
      if (question === null) throw new Error('nothing is asked')
      const answer = await unwrapped(client.POST('/api/v1/compute', { body: question }))
      if (answer.kind !== 'solution') throw new Error('the answer is about something else')
      return answer
    },
  })
}
