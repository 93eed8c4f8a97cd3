import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect } from 'react'
import { client, PACES, unwrapped, type Board, type RunHead } from '@/api'
import { Failure } from '@/ui'

/** How far a class that never was has come, and how fast it works. */
export function RehearsalLine({ run }: { run: RunHead }) {
  const queries = useQueryClient()
  const set = useMutation({
    mutationFn: (pace: number | null) =>
      unwrapped(
        client.PUT('/api/v1/runs/{run}/rehearsal', { params: { path: { run: run.id } }, body: { pace } }),
      ),
    onSuccess: () => queries.invalidateQueries({ queryKey: ['rehearsal', run.id] }),
  })
  const at = useStands(run)
  const done = at !== null && at.said >= at.of
  const part = at === null || at.of === 0 ? 0 : at.said / at.of
  const plays = at?.pace ?? null
  return (
    <div role="group" aria-label="rehearsal" className="mt-2 flex flex-wrap items-center gap-x-4 gap-y-1">
      {at === null ? (
        <span className="text-slate">paused since the server started</span>
      ) : (
        <Progress part={part} />
      )}
      {done ? (
        <span className="text-slate">finished</span>
      ) : (
        <>
          {PACES.map((pace) => (
            <button
              key={pace}
              type="button"
              aria-pressed={plays === pace}
              disabled={set.isPending}
              className="min-h-8 border border-rule bg-sheet px-2.5 font-mono aria-pressed:border-2 aria-pressed:border-teal aria-pressed:bg-teal-wash"
              onClick={() => {
                set.mutate(pace)
              }}
            >
              {pace}×
            </button>
          ))}
          <button
            type="button"
            aria-pressed={plays === null}
            disabled={set.isPending}
            className="min-h-8 border border-rule bg-sheet px-2.5 aria-pressed:border-2 aria-pressed:border-teal aria-pressed:bg-teal-wash"
            onClick={() => {
              set.mutate(null)
            }}
          >
            {plays === null ? 'paused' : 'pause'}
          </button>
        </>
      )}
      {set.isError && <Failure error={set.error} />}
    </div>
  )
}

/** How much of it is done, on a true scale. */
function Progress({ part }: { part: number }) {
  return (
    <svg viewBox="0 0 200 10" role="img" aria-label={`${Math.round(100 * part)} % done`} className="w-48">
      <path d="M0 9H200" className="stroke-pencil" />
      {Array.from({ length: 21 }, (_, i) => (
        <path key={i} d={`M${i * 10} 9v${i % 5 === 0 ? -8 : -4}`} className="stroke-pencil" />
      ))}
      <path d={`M0 8H${200 * part}`} className="stroke-copper" strokeWidth="3" />
    </svg>
  )
}

/** It is looked at once a second while it plays; the board goes by its time. */
function useStands(run: RunHead) {
  const queries = useQueryClient()
  const stands = useQuery({
    queryKey: ['rehearsal', run.id],
    refetchInterval: ({ state }) => (state.data?.stands?.pace == null ? false : 1000),
    queryFn: () =>
      unwrapped(client.GET('/api/v1/runs/{run}/rehearsal', { params: { path: { run: run.id } } })),
  })
  const now = stands.data?.now
  useEffect(() => {
    if (now === undefined) return
    queries.setQueryData<Board>(['board', run.id], (board) => board && { ...board, now })
  }, [queries, run.id, now])
  return stands.data?.stands ?? run.rehearsing ?? null
}
