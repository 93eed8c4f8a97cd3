import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { client, unwrapped, type PutBack } from '@/api'

const KEY = ['keeping'] as const

/** The backups, and how the last one went. */
export function useKeeping() {
  return useQuery({ queryKey: KEY, queryFn: () => unwrapped(client.GET('/api/v1/keeping')) })
}

/** What can be done to keep the record. */
export function useKeep() {
  const queries = useQueryClient()
  const backUp = useMutation({
    mutationFn: () => unwrapped(client.POST('/api/v1/keeping/backups')),
    onSuccess: (view) => {
      queries.setQueryData(KEY, view)
    },
  })
  const examine = useMutation({ mutationFn: () => unwrapped(client.POST('/api/v1/keeping/examined')) })
  const restore = useMutation({
    mutationFn: (body: PutBack) => unwrapped(client.POST('/api/v1/keeping/restored', { body })),
    // Everybody is signed out, and nothing that was fetched before holds.
    onSuccess: () => {
      queries.clear()
    },
  })
  return { backUp, examine, restore }
}
