import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { client, unwrapped } from '@/api'

const key = (run: number) => ['afterwards', run] as const

/** What is said of a run afterwards. */
export function useAfterwards(run: number) {
  return useQuery({
    queryKey: key(run),
    queryFn: () => unwrapped(client.GET('/api/v1/runs/{run}/afterwards', { params: { path: { run } } })),
  })
}

/** Something said of a run; what is shown is fetched again afterwards. */
export function useSaying<T>(run: number, say: (what: T) => Promise<unknown>) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: say,
    onSuccess: () => queries.invalidateQueries({ queryKey: key(run) }),
  })
}
