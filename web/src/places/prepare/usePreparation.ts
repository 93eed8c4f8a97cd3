import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useParams, useSearchParams } from 'react-router'
import {
  client,
  unwrapped,
  type NewBottle,
  type PreparationView,
  type PrepareChoices,
  type TickView,
} from '@/api'

/** As if for so many groups, where an address does not say for how many. */
export const USUAL_GROUPS = 8

/** Which preparation an address means: of a run, or of a practical as if. */
export function useWhich() {
  const { run, practical, part, material } = useParams()
  const [query] = useSearchParams()
  const groups = Number(query.get('groups') ?? USUAL_GROUPS)
  return {
    run: run === undefined ? null : Number(run),
    practical: practical ?? '',
    groups: Number.isInteger(groups) ? groups : USUAL_GROUPS,
    base: run === undefined ? `/prepare/as-if/${practical ?? ''}` : `/prepare/${run}`,
    search: run === undefined ? `?groups=${groups}` : '',
    part: part ?? 'amounts',
    material,
  }
}

/** What is prepared. Of a run it is asked for again, since others tick as well. */
export function usePreparation() {
  const { run, practical, groups } = useWhich()
  return useQuery({
    queryKey: ['preparation', run, practical, groups],
    queryFn: () => (run === null ? asIf(practical, groups) : ofRun(run)),
    refetchInterval: run === null ? false : 5_000,
  })
}

const ofRun = (run: number): Promise<PreparationView> =>
  unwrapped(client.GET('/api/v1/runs/{run}/preparation', { params: { path: { run } } }))

const asIf = (practical: string, groups: number): Promise<PreparationView> =>
  unwrapped(
    client.GET('/api/v1/prepare/practicals/{practical}', {
      params: { path: { practical }, query: { groups } },
    }),
  )

/** What changes a preparation; its page shows the answer at once. */
export function usePreparing(run: number) {
  const queries = useQueryClient()
  const path = { run }
  const key = ['preparation', run, '', USUAL_GROUPS]
  const shown = (view: PreparationView) => {
    queries.setQueryData(key, view)
    void queries.invalidateQueries({ queryKey: ['prepare'] })
  }
  const ticked = (ticks: TickView[]) => {
    queries.setQueryData(key, (view: PreparationView | undefined) => view && { ...view, ticks })
    void queries.invalidateQueries({ queryKey: ['prepare'] })
  }
  return {
    choose: useMutation({
      mutationFn: (body: PrepareChoices) =>
        unwrapped(client.PUT('/api/v1/runs/{run}/preparation', { params: { path }, body })),
      onSuccess: shown,
    }),
    tick: useMutation({
      mutationFn: (body: { item: string; done: boolean }) =>
        unwrapped(client.PUT('/api/v1/runs/{run}/ticks', { params: { path }, body })),
      onSuccess: ticked,
    }),
    bottle: useMutation({
      mutationFn: (body: NewBottle) =>
        unwrapped(client.POST('/api/v1/runs/{run}/bottles', { params: { path }, body })),
      onSuccess: shown,
    }),
  }
}
