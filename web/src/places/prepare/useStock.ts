import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { client, unwrapped, type NewContainer, type StockView } from '@/api'

const KEY = ['stock']

/** What stands on the shelves, and what changes it. */
export function useStock() {
  const queries = useQueryClient()
  const shown = (all: StockView[]) => {
    queries.setQueryData(KEY, all)
    void queries.invalidateQueries({ queryKey: ['preparation'] })
  }
  return {
    stock: useQuery({ queryKey: KEY, queryFn: () => unwrapped(client.GET('/api/v1/stock')) }),
    put: useMutation({
      mutationFn: (body: NewContainer) => unwrapped(client.POST('/api/v1/stock', { body })),
      onSuccess: shown,
    }),
    count: useMutation({
      mutationFn: ({ id, ...body }: { id: number; amount: number; reason: string }) =>
        unwrapped(client.PUT('/api/v1/stock/{id}', { params: { path: { id } }, body })),
      onSuccess: shown,
    }),
    takeOff: useMutation({
      mutationFn: (id: number) =>
        unwrapped(client.DELETE('/api/v1/stock/{id}', { params: { path: { id } } })),
      onSuccess: shown,
    }),
    list: useMutation({
      mutationFn: (csv: string) => unwrapped(client.POST('/api/v1/stock/list', { body: { csv } })),
      onSuccess: shown,
    }),
  }
}
