import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { client, unwrapped, type DraftAction, type Edit, type PlanView } from '@/api'

const key = (id: string) => ['plan', id] as const

/** A practical on the desk: its draft if there is one, its newest version otherwise. */
export function usePlan(id: string) {
  return useQuery({
    queryKey: key(id),
    queryFn: () => unwrapped(client.GET('/api/v1/practicals/{id}', { params: { path: { id } } })),
  })
}

/** Changing it. One change after the other, each on the step that the one before has made. */
export function useChanges(id: string) {
  const queries = useQueryClient()
  const step = () => queries.getQueryData<PlanView>(key(id))?.draft?.step ?? null
  const shown = (view: PlanView) => {
    queries.setQueryData(key(id), view)
    void queries.invalidateQueries({ queryKey: ['shelf'] })
  }
  const change = useMutation({
    scope: { id: `plan ${id}` },
    mutationFn: (action: DraftAction) =>
      unwrapped(
        client.POST('/api/v1/practicals/{id}/draft', {
          params: { path: { id } },
          body: { step: step(), change: action },
        }),
      ),
    onSuccess: shown,
  })
  const publish = useMutation({
    scope: { id: `plan ${id}` },
    mutationFn: () =>
      unwrapped(
        client.POST('/api/v1/practicals/{id}/publish', {
          params: { path: { id } },
          body: { step: step() ?? 0 },
        }),
      ),
    onSuccess: (view) => {
      shown(view)
      void queries.invalidateQueries({ queryKey: ['versions', id] })
    },
  })
  const edit = (what: string, ...edits: Edit[]) => {
    change.mutate({ kind: 'edits', what, edits })
  }
  return { change, publish, edit }
}

export type Changes = ReturnType<typeof useChanges>
