import type { LedgerLine, Role } from '@/api'
import { Formula, Reading, Unit, columnWidths, ticks } from '@/ui'

const roles: { [K in Role]: string } = {
  limiting: 'limits',
  excess: 'in excess',
  product: 'theory',
  solvent: 'solvent',
  wash: 'for washing',
}

/** The materials: form, amount, moles, and equivalents of the limiting one on a true scale. */
export function Ledger({ lines }: { lines: readonly LedgerLine[] }) {
  const most = Math.max(1.2, ...lines.map((l) => l.equivalents?.high ?? 0))
  const end = Math.ceil(most * 4) / 4
  const widths = columnWidths(lines.flatMap((l) => (l.planned ? [l.planned.value] : [])))
  const moles = columnWidths(lines.flatMap((l) => (l.equivalents ? [l.equivalents.millimoles] : [])))
  return (
    <table className="w-full border-collapse">
      <caption className="mb-2 text-left text-body font-semibold">materials, per group</caption>
      <thead>
        <tr className="text-left align-bottom text-note text-slate">
          <th className="pr-4 pb-1 font-normal">substance</th>
          <th className="pr-4 pb-1 font-normal">form</th>
          <th className="pr-4 pb-1 font-normal">amount</th>
          <th className="pr-4 pb-1 text-right font-normal">mmol</th>
          <th className="pb-1 font-normal">
            equivalents of the limiting one
            <Scale end={end} />
          </th>
          <th className="pb-1 pl-4 font-normal">
            <span className="sr-only">role</span>
          </th>
        </tr>
      </thead>
      <tbody>
        {lines.map((line) => (
          <tr key={line.symbol} className="border-t border-rule align-top">
            <th scope="row" className="py-2.5 pr-4 text-left font-normal">
              {line.name}
              <span className="block text-note text-slate">
                <Formula runs={line.formula} />
                {line.also && ` · ${line.also}`}
              </span>
              {line.hazards.length > 0 && (
                <details className="text-note text-amber-text print:hidden">
                  <summary>
                    {line.hazards.length === 1 ? 'one hazard' : `${line.hazards.length} hazards`}
                  </summary>
                  {line.hazards.map((h) => (
                    <p key={h}>{h}</p>
                  ))}
                </details>
              )}
            </th>
            <td className="py-2.5 pr-4 text-note text-slate">{line.form}</td>
            <td className="py-2.5 pr-4 text-lead whitespace-nowrap">
              {line.planned && (
                <>
                  <Reading text={line.planned.value} {...widths} />
                  <span className="text-note text-slate">
                    {line.planned.band && `\u2009±\u2009${line.planned.band}`}
                    <Unit of={line.planned.unit} />
                  </span>
                </>
              )}
            </td>
            <td className="py-2.5 pr-4 text-right text-lead">
              {line.equivalents && <Reading text={line.equivalents.millimoles} {...moles} />}
            </td>
            <td className="py-2.5">{line.equivalents && <Bar line={line} end={end} />}</td>
            <td
              className={`py-2.5 pl-4 whitespace-nowrap ${line.role === 'limiting' ? 'font-semibold text-copper-text' : ''}`}
            >
              {line.equivalents && line.role === 'excess'
                ? `${((line.equivalents.planned - 1) * 100).toFixed(0)} % over`
                : roles[line.role]}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}

const WIDTH = 250
const at = (value: number, end: number) => 1 + (value / end) * (WIDTH - 14)

function Scale({ end }: { end: number }) {
  return (
    <svg width={WIDTH} height={26} aria-hidden="true" className="mt-1 block">
      <path d={`M1 16H${at(end, end)}`} className="stroke-pencil" />
      {ticks(0, end, 0.1, 5).map((t) => (
        <path key={t.value} d={`M${at(t.value, end)} 16v${t.long ? 10 : 6}`} className="stroke-pencil" />
      ))}
      {[0, 0.5, 1].map((v) => (
        <text
          key={v}
          x={at(v, end)}
          y="11"
          textAnchor={v === 0 ? 'start' : 'middle'}
          className="fill-slate font-mono text-[11px]"
        >
          {v === 0 ? '0' : v.toFixed(1)}
        </text>
      ))}
    </svg>
  )
}

/** One reagent on the scale, with the caliper over its band. */
function Bar({ line, end }: { line: LedgerLine; end: number }) {
  const e = line.equivalents
  if (!e) return null
  const limits = line.role === 'limiting'
  return (
    <svg
      width={WIDTH}
      height={30}
      role="img"
      aria-label={`${e.planned.toFixed(2)} equivalents, between ${e.low.toFixed(2)} and ${e.high.toFixed(2)}`}
    >
      <rect
        x="1"
        y="10"
        width={at(e.planned, end) - 1}
        height="13"
        className={limits ? 'fill-copper' : 'fill-teal opacity-45'}
      />
      <path d={`M${at(1, end)} 0V30`} className="stroke-copper" strokeDasharray="2 3" />
      {e.high > e.low && (
        <path
          d={`M${at(e.low, end)} 8V3H${at(e.high, end)}V8`}
          fill="none"
          className="stroke-ink"
          strokeWidth="1.6"
        />
      )}
    </svg>
  )
}
