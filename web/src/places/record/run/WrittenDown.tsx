import type { Board, Entered, Row, Struck } from '@/api'
import { columnWidths, dayAndTime, Part, Reading, Unit } from '@/ui'

/** What was read and seen, digits as typed, with instrument and time; corrections struck through with their reason. */
export function WrittenDown({ board, row }: { board: Board; row: Row }) {
  const read = board.readings.filter((r) => r.symbol in row.readings || r.symbol in row.taken_out)
  const seen = board.observations.filter((o) => o.symbol in row.observations)
  const widths = columnWidths(Object.values(row.readings).map((e) => e.text))
  return (
    <>
      <Part title="readings">
        {read.length === 0 && <p className="text-slate">None yet.</p>}
        <table className="w-full border-collapse text-note">
          <caption className="sr-only">readings in bench order</caption>
          <tbody>
            {read.map((r) => {
              const entered = row.readings[r.symbol]
              return (
                <tr key={r.symbol} className="border-b border-rule align-baseline break-inside-avoid">
                  <th scope="row" className="py-1 pr-4 text-left font-normal">
                    {r.label}
                    <Earlier entered={entered} out={row.taken_out[r.symbol] ?? []} />
                  </th>
                  <td className="py-1 pr-2 text-right text-body">
                    {entered && <Reading text={entered.text} {...widths} />}
                  </td>
                  <td className="py-1 pr-4">
                    <Unit of={r.unit} />
                  </td>
                  <td className="py-1 pr-4 text-slate max-tablet:hidden">
                    {entered && `${entered.sent ? 'sent by ' : ''}${entered.on ?? r.instrument}`}
                  </td>
                  <td className="py-1 text-right text-slate tablet:whitespace-nowrap">
                    {entered && `${entered.about ? 'about ' : ''}${dayAndTime(entered.at)}`}
                  </td>
                </tr>
              )
            })}
          </tbody>
        </table>
      </Part>
      {seen.length > 0 && (
        <Part title="observations">
          <dl className="text-note">
            {seen.map((o) => (
              <div
                key={o.symbol}
                className="flex flex-wrap justify-between gap-x-6 border-b border-rule py-1"
              >
                <dt className="text-slate">{o.question}</dt>
                <dd>{row.observations[o.symbol]?.text}</dd>
              </div>
            ))}
          </dl>
        </Part>
      )}
    </>
  )
}

function Earlier({ entered, out }: { entered: Entered | undefined; out: readonly Struck[] }) {
  const struck = [...(entered?.struck ?? []), ...out]
  return (
    <>
      {struck.map((s, i) => (
        <span key={i} className="block text-slate">
          <s className="font-mono">{s.text}</s> {s.reason ?? 'entered again'}
        </span>
      ))}
      {entered?.borrowed != null && (
        <span className="block text-slate">borrowed from {entered.borrowed}</span>
      )}
      {entered?.by_instructor && <span className="block text-slate">entered by the instructor</span>}
    </>
  )
}
