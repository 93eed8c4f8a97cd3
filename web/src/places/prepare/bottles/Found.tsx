import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { client, unwrapped, useSession, type Bottle } from '@/api'
import { Failure } from '@/ui'

/** What a class found a bottle to hold, which its instructor can make its strength. */
export function Found({ run, bottle }: { run: number; bottle: Bottle }) {
  const session = useSession()
  const queries = useQueryClient()
  const path = { run, name: bottle.name }
  const found = useQuery({
    queryKey: ['found', run, bottle.name],
    enabled: session.data?.role === 'instructor',
    retry: false,
    queryFn: () => unwrapped(client.GET('/api/v1/runs/{run}/bottles/{name}/found', { params: { path } })),
  })
  const take = useMutation({
    mutationFn: () => unwrapped(client.PUT('/api/v1/runs/{run}/bottles/{name}/found', { params: { path } })),
    onSuccess: () => queries.invalidateQueries({ queryKey: ['preparation', run] }),
  })
  // A class that finds nothing of it, or too little yet, has nothing to say here.
  if (!found.data || found.data.shown === bottle.measured) return null
  const { groups, left_out, shown } = found.data
  return (
    <p>
      {groups.length} groups found <span className="font-mono">{shown}</span>
      {left_out != null && <span className="text-slate">, {left_out} left out</span>}{' '}
      <button
        type="button"
        disabled={take.isPending}
        aria-label={`make ${shown} the strength of ${bottle.name}`}
        className="min-h-6 text-copper-text underline underline-offset-4 print:hidden"
        onClick={() => {
          take.mutate()
        }}
      >
        use this strength
      </button>
      {take.isError && <Failure error={take.error}>The bottle is as it was.</Failure>}
    </p>
  )
}
