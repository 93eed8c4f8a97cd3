import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { client, unwrapped, type School } from '@/api'

const KEY = ['school']

/** What the school chose. */
export function useSchool() {
  return useQuery({ queryKey: KEY, queryFn: () => unwrapped(client.GET('/api/v1/school')) })
}

/** Chooses; every plan is worked anew by it. */
export function useChoose() {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: (school: School) => unwrapped(client.PUT('/api/v1/school', { body: school })),
    onSuccess: async (view) => {
      queries.setQueryData(KEY, view)
      await queries.invalidateQueries({ queryKey: ['plan'] })
    },
  })
}
