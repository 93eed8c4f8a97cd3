import { client, unwrapped, type PeopleView } from '@/api'
import { Failure } from '@/ui'
import { usePeopleAction } from './usePeople'

/** At which bench each group stands: groups at one bench share more than instruments, and Check looks for it. */
export function Benches({ run, view }: { run: number; view: PeopleView }) {
  const put = usePeopleAction(run, (what: { group: number; bench: string }) =>
    unwrapped(
      client.PUT('/api/v1/runs/{run}/groups/{group}/bench', {
        params: { path: { run, group: what.group } },
        body: { bench: what.bench },
      }),
    ),
  )
  return (
    <section aria-labelledby="benches">
      <h2 id="benches" className="mb-1 text-body">
        benches
      </h2>
      <p className="mb-2 text-note text-slate">
        Where groups share a bench, write its name beside each: so a fault at one bench shows up.
      </p>
      {put.isError && <Failure error={put.error} />}
      <ul className="flex flex-wrap gap-x-6 gap-y-2">
        {view.groups
          .filter((g) => g.merged_into == null)
          .map((g) => (
            <li key={g.id}>
              <label className="flex items-baseline gap-2">
                <span className="font-semibold">{g.name}</span>
                <input
                  className="field w-16 min-h-8"
                  aria-label={`bench of ${g.name}`}
                  maxLength={20}
                  defaultValue={g.bench ?? ''}
                  onBlur={(event) => {
                    const bench = event.target.value.trim()
                    if (bench !== (g.bench ?? '')) put.mutate({ group: g.id, bench })
                  }}
                />
              </label>
            </li>
          ))}
      </ul>
    </section>
  )
}
