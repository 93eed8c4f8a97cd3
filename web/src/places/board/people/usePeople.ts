import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { client, unwrapped } from '@/api'

/** The people of a run, its groups with what each was given, and its lessons. */
export function usePeople(run: number) {
  return useQuery({
    queryKey: ['people', run],
    queryFn: () => unwrapped(client.GET('/api/v1/runs/{run}/people', { params: { path: { run } } })),
  })
}

/** Something done to the people of a run; what is shown is fetched again afterwards. */
export function usePeopleAction<T>(run: number, act: (what: T) => Promise<unknown>) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: act,
    onSuccess: async () => {
      await queries.invalidateQueries({ queryKey: ['people', run] })
      await queries.invalidateQueries({ queryKey: ['board', run] })
    },
  })
}
