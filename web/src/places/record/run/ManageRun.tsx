import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useNavigate } from 'react-router'
import { client, unwrapped, type RunHead } from '@/api'
import { AskOnce, day, Failure, InPlace } from '@/ui'

/** What a run is called, and where it is kept: in view, put away, or deleted where nobody has worked in it. */
export function ManageRun({ run }: { run: RunHead }) {
  const queries = useQueryClient()
  const navigate = useNavigate()
  const path = { run: run.id }
  const again = () => queries.invalidateQueries()
  const rename = useMutation({
    mutationFn: (title: string) =>
      unwrapped(client.PUT('/api/v1/runs/{run}/title', { params: { path }, body: { title } })),
    onSuccess: again,
  })
  const archive = useMutation({
    mutationFn: (archived: boolean) =>
      unwrapped(client.PUT('/api/v1/runs/{run}/archived', { params: { path }, body: { archived } })),
    onSuccess: again,
  })
  const remove = useMutation({
    mutationFn: () => unwrapped(client.DELETE('/api/v1/runs/{run}', { params: { path } })),
    onSuccess: async () => {
      await navigate('/record')
      queries.removeQueries({ queryKey: ['board', run.id] })
      await queries.invalidateQueries({ queryKey: ['shelf'] })
    },
  })
  const away = run.archived_at != null
  return (
    <div className="flex flex-wrap items-start gap-x-6 print:hidden">
      <InPlace
        ask="rename"
        label="rename this run"
        value={run.title === run.practical_title ? '' : run.title}
        least={0}
        most={80}
        act="Save"
        pending={rename.isPending}
        error={rename.error}
        onAct={(title, done) => {
          rename.mutate(title, { onSuccess: done })
        }}
      />
      <button
        type="button"
        className="quiet"
        disabled={archive.isPending}
        onClick={() => {
          archive.mutate(!away)
        }}
      >
        {away ? 'move out of the archive' : 'archive'}
      </button>
      {run.entered === 0 && (
        <AskOnce
          ask="delete"
          label="delete this run"
          keep="keep it"
          act="Delete this run"
          pending={remove.isPending}
          error={remove.error}
          onAct={() => {
            remove.mutate()
          }}
        >
          Its groups, lessons and code go with it.
        </AskOnce>
      )}
      {away && (
        <span className="text-note text-slate">
          archived {day(run.archived_at ?? 0)}; nothing in it has changed
        </span>
      )}
      {archive.isError && <Failure error={archive.error} />}
    </div>
  )
}
