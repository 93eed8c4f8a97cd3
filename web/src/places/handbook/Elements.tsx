import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { client, unwrapped, type ElementView } from '@/api'
import { columnWidths, Failure, Find, Reading } from '@/ui'

/** Relative atomic masses as they are calculated with, in both tables. */
export function Elements() {
  const [wanted, setWanted] = useState('')
  const elements = useQuery({
    queryKey: ['handbook', 'elements'],
    queryFn: () => unwrapped(client.GET('/api/v1/handbook/elements')),
    staleTime: Infinity,
  })
  if (elements.isPending) return <p className="py-12 text-slate">Opening the table …</p>
  if (elements.isError) return <Failure error={elements.error} />
  const words = wanted.trim().toLowerCase()
  const shown = elements.data.filter(
    (e) => e.name.includes(words) || e.symbol.toLowerCase() === words || String(e.number) === words,
  )
  const columns = Math.max(1, Math.ceil(shown.length / 3))
  return (
    <section aria-labelledby="elements">
      <div className="mb-4 flex flex-wrap items-end justify-between gap-6">
        <div>
          <h1 id="elements" className="text-title">
            Elements
          </h1>
          <p className="max-w-[52rem] text-slate">
            Standard atomic weights 2021, abridged, with the half-width of the last digits; beside them the
            one-decimal school table, rounded half up. Elements without a standard value have none.
          </p>
        </div>
        <Find wanted={wanted} onWanted={setWanted} />
      </div>
      <div className="grid gap-x-10 desk:grid-cols-3">
        {[0, 1, 2].map((i) => (
          <Column key={i} elements={shown.slice(i * columns, (i + 1) * columns)} all={elements.data} />
        ))}
      </div>
      {shown.length === 0 && <p className="text-slate">No element is called “{wanted}”.</p>}
    </section>
  )
}

function Column({ elements, all }: { elements: readonly ElementView[]; all: readonly ElementView[] }) {
  if (elements.length === 0) return null
  const abridged = columnWidths(all.flatMap((e) => e.abridged ?? []))
  const school = columnWidths(all.flatMap((e) => e.school ?? []))
  return (
    <table className="w-full border-collapse self-start">
      <thead>
        <tr className="border-b border-ink text-left text-note text-slate">
          <th className="py-1 pr-2 font-normal desk:pr-3">Z</th>
          <th className="py-1 pr-2 font-normal desk:pr-3">element</th>
          <th className="py-1 pr-2 font-normal desk:pr-3">abridged</th>
          <th className="py-1 font-normal">school</th>
        </tr>
      </thead>
      <tbody>
        {elements.map((e) => (
          <tr key={e.number} className="border-b border-rule align-baseline">
            <td className="py-1 pr-3 text-right font-mono text-note text-slate">{e.number}</td>
            <th scope="row" className="py-1 pr-3 text-left font-normal">
              <b className="inline-block min-w-7 font-semibold">{e.symbol}</b> {e.name}
            </th>
            <td className="py-1 pr-3 whitespace-nowrap">
              {e.abridged == null ? (
                <span className="text-slate">none</span>
              ) : (
                <>
                  <Reading text={e.abridged} {...abridged} />
                  <span className="text-note text-slate">{`\u2002±\u2009${e.half_width ?? ''}`}</span>
                </>
              )}
            </td>
            <td className="py-1">{e.school != null && <Reading text={e.school} {...school} />}</td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}
