import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { client, followRun, unwrapped, type NewReview, type OutlierTest } from '@/api'

/** All answers of a run, judged; fetched again when a group sends something. */
export function useCheck(run: number, test: OutlierTest) {
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
    queryKey: ['check', run, test],
    queryFn: () =>
      unwrapped(client.GET('/api/v1/runs/{run}/check', { params: { path: { run }, query: { test } } })),
    placeholderData: keepPreviousData,
  })
}

/** The worked solution of one result from one group's own readings. */
export function useWorked(run: number, group: number, result: string) {
  return useQuery({
    queryKey: ['worked', run, group, result],
    queryFn: () =>
      unwrapped(
        client.GET('/api/v1/runs/{run}/groups/{group}/worked/{result}', {
          params: { path: { run, group, result } },
        }),
      ),
  })
}

/** Rules on answers; which ones were ruled on here is known before the run has been fetched again. */
export function useReview(run: number) {
  const queries = useQueryClient()
  const [done, setDone] = useState<ReadonlySet<string>>(new Set())
  // What was said last can be taken back as it was said: all alike at once.
  const [last, setLast] = useState<readonly NewReview[]>([])
  const review = useMutation({
    mutationFn: (reviews: NewReview[]) =>
      unwrapped(client.POST('/api/v1/runs/{run}/reviews', { params: { path: { run } }, body: { reviews } })),
    onSuccess: (_, reviews) => {
      setLast(reviews.filter((r) => r.ruling != null))
      setDone((known) => {
        const now = new Set(known)
        for (const { answer, ruling } of reviews) {
          if (ruling == null) now.delete(answer)
          else now.add(answer)
        }
        return now
      })
    },
    // Not waited for: the next press is for the next stack, and must not be lost while the class is judged again.
    onSettled: () => void queries.invalidateQueries({ queryKey: ['check', run] }),
  })
  return { ...review, done, last }
}

/** Gives sheets back. */
export function useRelease(run: number) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: (body: { groups: number[]; with_values: boolean }) =>
      unwrapped(client.POST('/api/v1/runs/{run}/releases', { params: { path: { run } }, body })),
    onSettled: () => queries.invalidateQueries({ queryKey: ['check', run] }),
  })
}
