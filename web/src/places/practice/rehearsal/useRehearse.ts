import { useMutation, useQueryClient } from '@tanstack/react-query'
import { client, unwrapped, type NewRehearsal } from '@/api'

/** Begins one; the run that it is. */
export function useRehearse() {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: (body: NewRehearsal) => unwrapped(client.POST('/api/v1/rehearsals', { body })),
    onSuccess: () => queries.invalidateQueries({ queryKey: ['rehearsals'] }),
  })
}

/** Puts one away: it stays where its address leads, and is no longer listed. */
export function usePutAway() {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: (run: number) =>
      unwrapped(
        client.PUT('/api/v1/runs/{run}/archived', { params: { path: { run } }, body: { archived: true } }),
      ),
    onSuccess: () => queries.invalidateQueries({ queryKey: ['rehearsals'] }),
  })
}
