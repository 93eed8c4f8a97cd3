import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect } from 'react'
import { v7 as uuidv7 } from 'uuid'
import { client, followRun, unwrapped, type EntryBody } from '@/api'

/** One group's page, fetched again when something of the run has changed. */
export function useGroup(run: number, group: number) {
  const queries = useQueryClient()
  useEffect(
    () =>
      followRun(
        run,
        (event) => {
          const concerns = event.kind === 'reset' || event.rows.some((r) => r.group === group)
          if (concerns) void queries.invalidateQueries({ queryKey: ['group', run, group] })
        },
        (open) => {
          if (open) void queries.invalidateQueries({ queryKey: ['group', run, group] })
        },
      ),
    [run, group, queries],
  )
  return useQuery({
    queryKey: ['group', run, group],
    queryFn: () =>
      unwrapped(client.GET('/api/v1/runs/{run}/groups/{group}', { params: { path: { run, group } } })),
  })
}

/** What an instructor enters, corrects or takes out for a group. */
export interface DeskSaying {
  entry: EntryBody
  supersedes?: string
  reason?: string
}

export function useEnterFor(run: number, group: number) {
  return useAction(run, group, ({ entry, supersedes, reason }: DeskSaying) =>
    unwrapped(
      client.POST('/api/v1/runs/{run}/groups/{group}/entries', {
        params: { path: { run, group } },
        body: { id: uuidv7(), entry, supersedes: supersedes ?? null, reason: reason ?? null },
      }),
    ),
  )
}

/** Something done to a group; what is shown of it is fetched again afterwards. */
export function useAction<T, R>(run: number, group: number, act: (what: T) => Promise<R>) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: act,
    onSuccess: async () => {
      await queries.invalidateQueries({ queryKey: ['group', run, group] })
      await queries.invalidateQueries({ queryKey: ['board', run] })
    },
  })
}
