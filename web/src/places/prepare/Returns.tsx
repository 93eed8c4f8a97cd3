import { useMutation, useQueryClient } from '@tanstack/react-query'
import { client, unwrapped, useSession, type PreparationView, type Return, type Slot } from '@/api'
import { Failure } from '@/ui'
import { couldWords, returnWords, slotWords } from '@/words'

/** What waits after a lesson: from when to when it can be gone on with, and which lessons would do. */
export function Returns({ of, after }: { of: PreparationView; after: number }) {
  return of.returns
    .filter((wait) => wait.after === after)
    .map((wait) => (
      <div key={wait.after}>
        <p className={wait.stands.stands === 'fits' ? 'text-slate' : 'text-amber-text'}>
          {returnWords(wait)} {couldWords(wait)}
        </p>
        {wait.could.length > 0 && <Could of={of} wait={wait} />}
      </div>
    ))
}

function Could({ of, wait }: { of: PreparationView; wait: Return }) {
  const session = useSession()
  const queries = useQueryClient()
  const plan = useMutation({
    mutationFn: (slot: Slot) => {
      const planned = of.visits.map(({ begins_at, minutes }) => ({ begins_at, minutes }))
      const { begins_at, minutes } = slot
      planned.splice(wait.after, 1, { begins_at, minutes })
      const run = of.run ?? 0
      return unwrapped(
        client.PUT('/api/v1/runs/{run}/visits', { params: { path: { run } }, body: { visits: planned } }),
      )
    },
    onSuccess: async () => {
      await queries.invalidateQueries({ queryKey: ['preparation', of.run] })
      await queries.invalidateQueries({ queryKey: ['prepare'] })
    },
  })
  // When a class has its lessons is for its instructor to say.
  const may = session.data?.role === 'instructor' && of.run != null
  return (
    <ul aria-label={`instead of lesson ${wait.after + 1}`} className="mt-1">
      {wait.could.map((slot) => (
        <li key={slot.begins_at} className="flex flex-wrap items-baseline gap-x-4">
          {slotWords(slot)}
          {may && (
            <button
              type="button"
              disabled={plan.isPending}
              aria-label={`plan lesson ${wait.after + 1} for ${slotWords(slot)}`}
              className="min-h-6 text-note text-copper-text underline underline-offset-4 print:hidden"
              onClick={() => {
                plan.mutate(slot)
              }}
            >
              plan it then
            </button>
          )}
        </li>
      ))}
      {plan.isError && <Failure error={plan.error}>The lessons are as they were.</Failure>}
    </ul>
  )
}
