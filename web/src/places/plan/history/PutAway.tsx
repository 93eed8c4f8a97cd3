import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useNavigate } from 'react-router'
import { client, unwrapped } from '@/api'
import { AskOnce, Failure } from '@/ui'

/** A published practical that is no longer wanted: archived, or deleted where it is the school's own and no class has used it. */
export function PutAway({ id }: { id: string }) {
  const queries = useQueryClient()
  const navigate = useNavigate()
  const shelf = useQuery({ queryKey: ['shelf'], queryFn: () => unwrapped(client.GET('/api/v1/shelf')) })
  const path = { id }
  const again = () => queries.invalidateQueries({ queryKey: ['shelf'] })
  const archive = useMutation({
    mutationFn: (archived: boolean) =>
      unwrapped(client.PUT('/api/v1/practicals/{id}/archived', { params: { path }, body: { archived } })),
    onSuccess: again,
  })
  const remove = useMutation({
    mutationFn: () => unwrapped(client.DELETE('/api/v1/practicals/{id}', { params: { path } })),
    onSuccess: async () => {
      await navigate('/shelf')
      await again()
    },
  })
  const of = shelf.data?.practicals.find((p) => p.id === id)
  if (!of) return null
  const used = shelf.data?.runs.some((r) => r.practical === id) === true
  return (
    <div className="mt-4 flex flex-wrap items-start gap-x-6">
      <button
        type="button"
        className="quiet"
        disabled={archive.isPending}
        onClick={() => {
          archive.mutate(!of.archived)
        }}
      >
        {of.archived ? 'show it in the library again' : 'archive (hide it from the library)'}
      </button>
      {!of.library && !used && (
        <AskOnce
          ask="delete"
          label="delete this practical"
          keep="keep it"
          act="Delete this practical"
          pending={remove.isPending}
          error={remove.error}
          onAct={() => {
            remove.mutate()
          }}
        >
          All its versions and its draft are gone for good. No class has worked on it.
        </AskOnce>
      )}
      {archive.isError && <Failure error={archive.error} />}
    </div>
  )
}
