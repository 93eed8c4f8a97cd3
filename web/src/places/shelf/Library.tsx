import { useState } from 'react'
import { Link } from 'react-router'
import type { PracticalHead, RunHead } from '@/api'
import { Find } from '@/ui'
import { Narrowing } from './Narrowing'
import { EVERYTHING, inOrder, narrowed, type Order } from './order'
import { found, medianOf } from './search'

/** The library as a dense table: what each practical finds, how long it takes, how the last class came out. */
export function Library({
  practicals,
  runs,
}: {
  practicals: readonly PracticalHead[]
  runs: readonly RunHead[]
}) {
  const [wanted, setWanted] = useState('')
  const [to, setTo] = useState(EVERYTHING)
  const [order, setOrder] = useState<Order>('title')
  const shown = inOrder(narrowed(found(practicals, wanted), to), order)
  return (
    <section aria-labelledby="library">
      <div className="mb-2 flex items-end justify-between gap-6">
        <h2 id="library" className="text-body">
          library
        </h2>
        <Find wanted={wanted} onWanted={setWanted} />
      </div>
      <Narrowing practicals={practicals} to={to} order={order} onNarrow={setTo} onOrder={setOrder} />
      <table className="w-full border-collapse">
        <thead>
          <tr className="border-b border-ink text-left text-note text-slate">
            <th className="py-1.5 pr-6 font-normal">practical</th>
            <th className="py-1.5 pr-6 font-normal">finds</th>
            <th className="hidden py-1.5 pr-6 font-normal desk:table-cell">level</th>
            <th className="hidden py-1.5 pr-6 text-right font-normal desk:table-cell">lessons</th>
            <th className="hidden py-1.5 pr-6 text-right font-normal desk:table-cell">min at the bench</th>
            <th className="hidden py-1.5 pr-6 text-right font-normal desk:table-cell">cautions</th>
            <th className="hidden py-1.5 pr-6 font-normal desk:table-cell">shared</th>
            <th className="hidden py-1.5 font-normal tablet:table-cell">last class</th>
          </tr>
        </thead>
        <tbody>
          {shown.map((p) => (
            <tr key={p.id} className="border-b border-rule align-baseline">
              <th scope="row" className="py-2.5 pr-6 text-left font-semibold">
                <Link
                  to={`/plan/${p.id}`}
                  className="underline decoration-rule underline-offset-4 hover:decoration-copper"
                >
                  {p.title}
                </Link>
                {p.archived && <span className="ml-2 text-note font-normal text-slate">archived</span>}
              </th>
              <td className="py-2.5 pr-6">{p.finds}</td>
              <td className="hidden desk:table-cell py-2.5 pr-6 text-note text-slate">{p.level}</td>
              <td className="hidden desk:table-cell py-2.5 pr-6 text-right font-mono">{p.visits}</td>
              <td className="hidden desk:table-cell py-2.5 pr-6 text-right font-mono whitespace-nowrap">
                {p.minutes.join('–')}
              </td>
              <td className="hidden desk:table-cell py-2.5 pr-6 text-right font-mono">{p.cautions}</td>
              <td className="hidden desk:table-cell py-2.5 pr-6 text-note text-slate">
                {p.shares.join(', ')}
              </td>
              <td className="hidden py-2.5 text-note tablet:table-cell">
                {lastClass(runs.find((r) => r.practical === p.id)) ?? (
                  <span className="text-slate">
                    {p.usually == null ? 'none yet' : `a class usually finds ${p.usually}`}
                  </span>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {shown.length === 0 && (
        <p className="border-b border-rule py-4 text-slate">
          {practicals.length === 0
            ? 'The library is empty.'
            : wanted === ''
              ? 'No practical matches. Widen the filters above.'
              : `No practical has “${wanted}” in it.`}
        </p>
      )}
    </section>
  )
}

function lastClass(run: RunHead | undefined): string | null {
  if (!run) return null
  const middle = medianOf(run.values)
  if (middle === null) return `${run.class}: nothing yet`
  return `${run.class}: median ${middle} ${run.unit}, ${run.values.length} of ${run.groups} groups`.replace(
    ' ,',
    ',',
  )
}
