import { client, unwrapped, type PeopleView } from '@/api'
import { Failure } from '@/ui'
import { usePeopleAction } from './usePeople'

/** What each group is given that others are not: a recipe, a coded unknown. The key stands here and nowhere at a bench. */
export function Allotments({ run, view }: { run: number; view: PeopleView }) {
  const give = usePeopleAction(
    run,
    (what: { group: number; assignment: string | null; unknown: string | null }) =>
      unwrapped(
        client.PUT('/api/v1/runs/{run}/groups/{group}/allotted', {
          params: { path: { run, group: what.group } },
          body: { assignment: what.assignment, unknown: what.unknown },
        }),
      ),
  )
  const deal = usePeopleAction(run, (how: 'in-turn' | 'by-lot') =>
    unwrapped(client.POST('/api/v1/runs/{run}/deal', { params: { path: { run } }, body: { how } })),
  )
  const { assignments, unknowns } = view
  if (assignments.length === 0 && unknowns.length === 0) return null
  const key = (code: string | null | undefined) => unknowns.find((u) => u.code === code)?.is
  return (
    <section aria-labelledby="given">
      <h2 id="given" className="mb-2 text-body">
        what each group is given
      </h2>
      <p className="mb-2 flex gap-5 text-note">
        <button
          type="button"
          className="min-h-6 text-copper-text underline underline-offset-4"
          disabled={deal.isPending}
          onClick={() => {
            deal.mutate('in-turn')
          }}
        >
          in turn along the benches
        </button>
        <button
          type="button"
          className="min-h-6 text-copper-text underline underline-offset-4"
          disabled={deal.isPending}
          onClick={() => {
            deal.mutate('by-lot')
          }}
        >
          at random
        </button>
      </p>
      {(give.isError || deal.isError) && <Failure error={give.error ?? deal.error} />}
      <table className="w-full border-collapse">
        <caption className="sr-only">what each group is given, with the key</caption>
        <tbody>
          {view.groups
            .filter((g) => g.merged_into == null)
            .map((g) => (
              <tr key={g.id} className="border-t border-rule align-baseline">
                <th scope="row" className="py-1 pr-4 text-left font-semibold">
                  {g.name}
                </th>
                <td>
                  <select
                    aria-label={`${g.name} is given`}
                    className="min-h-8 border-b border-rule bg-transparent"
                    value={(assignments.length > 0 ? g.allotted.assignment : g.allotted.unknown) ?? ''}
                    disabled={give.isPending}
                    onChange={(event) => {
                      const to = event.target.value || null
                      give.mutate({
                        group: g.id,
                        assignment: assignments.length > 0 ? to : null,
                        unknown: assignments.length > 0 ? null : to,
                      })
                    }}
                  >
                    <option value="">nothing of its own</option>
                    {(assignments.length > 0
                      ? assignments.map((a) => a.name)
                      : unknowns.map((u) => u.code)
                    ).map((name) => (
                      <option key={name}>{name}</option>
                    ))}
                  </select>
                </td>
                <td className="text-note text-copper-text">
                  {g.allotted.unknown != null && `${g.allotted.unknown} is ${key(g.allotted.unknown) ?? '?'}`}
                </td>
              </tr>
            ))}
        </tbody>
      </table>
      {unknowns.length > 0 && (
        <p className="mt-2 text-note text-slate">
          The key is yours alone: no bench and no projector shows it.
        </p>
      )}
    </section>
  )
}
