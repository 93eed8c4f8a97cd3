import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { client, unwrapped } from '@/api'

/** The classes that the instructor may see. */
export function useClasses() {
  return useQuery({ queryKey: ['classes'], queryFn: () => unwrapped(client.GET('/api/v1/classes')) })
}

/** Something done to a class; what is shown is fetched again afterwards. */
export function useClassAction<T, R>(act: (what: T) => Promise<R>) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: act,
    onSuccess: () => queries.invalidateQueries({ queryKey: ['classes'] }),
  })
}
