import { client, unwrapped, type ClassView } from '@/api'
import { AskOnce, day, Failure } from '@/ui'
import { useClassAction } from './useClasses'

/** How long the names of a class are kept, and the end of it. */
export function Keeping({ of, now, mine }: { of: ClassView; now: number; mine: boolean }) {
  const keep = useClassAction((until: number | null) =>
    unwrapped(
      client.PUT('/api/v1/classes/{class}/keep', { params: { path: { class: of.id } }, body: { until } }),
    ),
  )
  const erase = useClassAction(() =>
    unwrapped(client.DELETE('/api/v1/classes/{class}/people', { params: { path: { class: of.id } } })),
  )
  return (
    <section aria-labelledby="keeping">
      <h3 id="keeping" className="mb-2 text-note text-ink">
        names are kept
      </h3>
      <p className="text-note text-slate">
        {of.keep_until == null ? 'Nobody has said until when.' : `Until ${day(of.keep_until)}.`} The record
        itself speaks of numbers, and stays.
      </p>
      {mine && (
        <>
          <label className="mt-2 block text-note text-slate">
            until
            <input
              type="date"
              className="field w-full"
              min={dateOf(now)}
              value={of.keep_until == null ? '' : dateOf(of.keep_until)}
              onChange={(event) => {
                const picked = event.target.value
                keep.mutate(picked === '' ? null : new Date(`${picked}T23:59`).getTime())
              }}
            />
          </label>
          {of.people.length > 0 && (
            <AskOnce
              ask="erase all names now"
              keep="keep the names"
              act={`Erase ${of.people.length} people`}
              pending={erase.isPending}
              error={erase.error}
              onAct={(done) => {
                erase.mutate(undefined, { onSuccess: done })
              }}
            >
              {of.people.length} names, all seats and everything entered by a person are deleted for good.
            </AskOnce>
          )}
        </>
      )}
      {keep.isError && <Failure error={keep.error} />}
    </section>
  )
}

/** A day as a date field writes it, by the clock on the wall. */
function dateOf(ms: number): string {
  const d = new Date(ms)
  const two = (n: number) => String(n).padStart(2, '0')
  return `${d.getFullYear()}-${two(d.getMonth() + 1)}-${two(d.getDate())}`
}
