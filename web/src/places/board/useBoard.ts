import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { client, followRun, unwrapped, type Board, type Row } from '@/api'

/** The board of a run, kept up to date by its event stream. */
export function useBoard(run: number) {
  const queries = useQueryClient()
  const [live, setLive] = useState(false)
  const board = useQuery({
    queryKey: ['board', run],
    queryFn: () => unwrapped(client.GET('/api/v1/runs/{run}/board', { params: { path: { run } } })),
  })
  const loaded = board.isSuccess
  useEffect(() => {
    if (!loaded) return
    return followRun(
      run,
      (event) => {
        if (event.kind === 'reset') void queries.invalidateQueries({ queryKey: ['board', run] })
        else
          queries.setQueryData<Board>(
            ['board', run],
            (old) => old && { ...old, rows: merged(old.rows, event.rows) },
          )
      },
      (open) => {
        setLive(open)
        // What came before the stream was open, or while it was away, nobody would send again.
        if (open) void queries.invalidateQueries({ queryKey: ['board', run] })
      },
    )
  }, [run, loaded, queries])
  return { board, live }
}

/** Rows keep their places; a changed one replaces its predecessor. */
export function merged(old: readonly Row[], changed: readonly Row[]): Row[] {
  return old.map((row) => changed.find((c) => c.group === row.group) ?? row)
}
