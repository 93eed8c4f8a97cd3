import type { ByHand, PracticeJudged } from '@/api'
import { columnWidths, Reading } from '@/ui'
import { findingWords } from '@/words'

/** The titrations so far, as at the bench. */
export function Titres({
  of,
  readings,
  judged,
}: {
  of: ByHand
  readings: Record<string, string>
  judged: PracticeJudged | undefined
}) {
  const rows = of.ends.flatMap((end, i) => {
    const start = of.starts[i]
    const to = readings[end.symbol]
    return start && to !== undefined ? [{ end, start, from: readings[start.symbol] ?? '', to }] : []
  })
  if (rows.length === 0) return null
  const widths = columnWidths(rows.flatMap((r) => [r.from, r.to]))
  return (
    <table className="mb-3 w-full max-w-md border-collapse">
      <caption className="sr-only">titrations so far</caption>
      <thead>
        <tr className="border-b border-ink text-right text-note text-slate">
          <th className="py-1 text-left font-normal">trial</th>
          <th className="py-1 font-normal">start</th>
          <th className="py-1 font-normal">end</th>
          <th className="py-1 font-normal">titre, mL</th>
        </tr>
      </thead>
      <tbody>
        {rows.map((r, i) => (
          <tr key={r.end.symbol} className="border-b border-rule text-right">
            <th scope="row" className="py-1.5 text-left font-normal text-slate">
              {i + 1}
              {i < of.rough && ', rough'}
            </th>
            <td className="py-1.5">
              <Reading text={r.from} {...widths} />
            </td>
            <td className="py-1.5">
              <Reading text={r.to} {...widths} />
            </td>
            <td className="py-1.5">
              <Reading text={judged?.delivered[r.end.symbol] ?? ''} {...widths} />
              {[r.start.symbol, r.end.symbol]
                .flatMap((s) => judged?.findings[s] ?? [])
                .map((f) => (
                  <span key={f.kind} className="block text-note text-amber-text">
                    {findingWords(f)}
                  </span>
                ))}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}
