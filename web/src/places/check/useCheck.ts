import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect } from 'react'
import { client, followRun, told } from '@/api'

/** All answers of a run, judged; fetched again when a group sends something. */
export function useCheck(run: number) {
  const queries = useQueryClient()
  useEffect(
    () =>
      followRun(
        run,
        () => {
          void queries.invalidateQueries({ queryKey: ['check', run] })
          void queries.invalidateQueries({ queryKey: ['worked', run] })
        },
        () => undefined,
      ),
    [run, queries],
  )
  return useQuery({
    queryKey: ['check', run],
    queryFn: () => told(client.GET('/api/v1/runs/{run}/check', { params: { path: { run } } })),
  })
}

/** The worked solution of one result from one group's own readings. */
export function useWorked(run: number, group: number, result: string) {
  return useQuery({
    queryKey: ['worked', run, group, result],
    queryFn: () =>
      told(
        client.GET('/api/v1/runs/{run}/groups/{group}/worked/{result}', {
          params: { path: { run, group, result } },
        }),
      ),
  })
}
