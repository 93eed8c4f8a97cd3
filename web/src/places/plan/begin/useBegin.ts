import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useNavigate } from 'react-router'
import { client, unwrapped, type Aim } from '@/api'

export type Answers = Readonly<Record<string, string>>

/** What is asked for an aim, and what would come of the answers; asked again as they are typed. */
export function useBegun(aim: Aim, answers: Answers) {
  return useQuery({
    queryKey: ['begun', aim, answers],
    placeholderData: keepPreviousData,
    retry: false,
    queryFn: () => unwrapped(client.POST('/api/v1/practicals/begun', { body: { aim, answers } })),
  })
}

/** Makes the draft, and goes there. */
export function useBegin(aim: Aim, answers: Answers) {
  const navigate = useNavigate()
  const queries = useQueryClient()
  return useMutation({
    mutationFn: () => unwrapped(client.POST('/api/v1/practicals', { body: { kind: 'aim', aim, answers } })),
    onSuccess: async (view) => {
      await queries.invalidateQueries({ queryKey: ['shelf'] })
      await navigate(`/plan/${view.id}`)
    },
  })
}
