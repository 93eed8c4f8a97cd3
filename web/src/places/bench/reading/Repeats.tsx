import type { Finding, ReadingSpec } from '@/api'
import { columnWidths, Reading, StateMark } from '@/ui'
import { SeriesPlot } from './SeriesPlot'
import type { BenchNow, Filled } from '../standing'

/** Readings that repeat together, a line each repeat: points beneath each other, what is delivered at the end. */
export function Repeats({
  readings,
  now,
  findings,
  delivered,
  writing,
  closed,
  onChoose,
}: {
  /** All places of one axis, in the order of the bench. */
  readings: readonly ReadingSpec[]
  now: BenchNow
  findings: Readonly<Record<string, readonly Finding[]>>
  delivered: Readonly<Record<string, string>>
  writing: string | null
  closed: boolean
  onChoose: (symbol: string) => void
}) {
  const columns = [...new Set(readings.map((r) => r.reading))]
  const at = (n: number) => columns.map((c) => readings.find((r) => r.symbol === `${c}[${n}]`))
  const most = Math.max(...columns.map((c) => readings.filter((r) => r.reading === c).length))
  const filled = Array.from({ length: most }, (_, i) => i + 1).filter((n) =>
    at(n).some((r) => r && r.symbol in now.readings),
  )
  const shown = Math.min(most, (filled.at(-1) ?? 0) + 1)
  const first = readings[0]
  const plotted = readings.find((r) => r.against != null)
  if (!first) return null
  const isTitration = Object.keys(delivered).some((s) => readings.some((r) => r.symbol === s))
  const widths = columns.map((c) =>
    columnWidths(readings.flatMap((r) => (r.reading === c ? [now.readings[r.symbol]?.text ?? ''] : []))),
  )
  return (
    <>
      <table className="mb-4 w-full border-collapse border-b border-rule">
        <caption className="sr-only">
          each {first.axis}, with its readings{isTitration ? ' and what was delivered' : ''}
        </caption>
        <thead>
          <tr className="text-note text-slate">
            <th scope="col" className="py-1 text-left font-normal">
              {first.axis}
            </th>
            {columns.map((c) => {
              const spec = readings.find((r) => r.reading === c)
              return (
                <th key={c} scope="col" className="py-1 pl-2 text-right font-normal">
                  {spec?.short.replace(/ \d+$/, '')}
                  {spec && spec.unit !== '1' && ` / ${spec.unit}`}
                </th>
              )
            })}
            {isTitration && (
              <th scope="col" className="py-1 pl-2 text-right font-normal">
                titre
              </th>
            )}
          </tr>
        </thead>
        <tbody>
          {Array.from({ length: shown }, (_, i) => i + 1).map((n) => {
            const cells = at(n)
            const end = cells.find((r) => r && r.symbol in delivered)
            const rough = cells.some((r) => r?.label.endsWith(', rough'))
            return (
              <tr key={n} className="border-t border-rule">
                <th scope="row" className="text-left text-body font-normal whitespace-nowrap text-slate">
                  {n}
                  {rough ? ' rough' : ''}
                </th>
                {cells.map((spec, i) => (
                  <td key={columns[i]} className="pl-1 text-right">
                    {spec && (
                      <Cell
                        spec={spec}
                        standing={now.readings[spec.symbol]}
                        doubtful={(findings[spec.symbol]?.length ?? 0) > 0}
                        writing={writing === spec.symbol}
                        closed={closed}
                        widths={widths[i]}
                        onChoose={() => {
                          onChoose(spec.symbol)
                        }}
                      />
                    )}
                  </td>
                ))}
                {isTitration && (
                  <td className="pl-2 text-right font-semibold">
                    {end && <Reading text={delivered[end.symbol] ?? ''} />}
                  </td>
                )}
              </tr>
            )
          })}
        </tbody>
      </table>
      {plotted && <SeriesPlot readings={readings} of={plotted} now={now} />}
    </>
  )
}

function Cell({
  spec,
  standing,
  doubtful,
  writing,
  closed,
  widths,
  onChoose,
}: {
  spec: ReadingSpec
  standing: Filled | undefined
  doubtful: boolean
  writing: boolean
  closed: boolean
  widths: ReturnType<typeof columnWidths> | undefined
  onChoose: () => void
}) {
  const flagged = doubtful && standing?.confirmed !== true
  return (
    <button
      type="button"
      disabled={closed || writing}
      aria-label={`${spec.label}: ${standing ? `${standing.text} ${spec.unit}` : 'not yet'}`}
      className={`min-h-14 w-full min-w-16 text-right ${writing ? 'bg-copper-wash' : ''}`}
      onClick={onChoose}
    >
      {standing ? (
        <>
          {flagged && <StateMark kind="doubtful" />}{' '}
          {standing.struck.length > 0 && (
            <s className="mr-1 font-mono text-note text-slate">{standing.struck.at(-1)?.text}</s>
          )}
          <Reading text={standing.text} {...widths} />
        </>
      ) : (
        <span className="text-body text-slate">{writing ? 'below' : '–'}</span>
      )}
    </button>
  )
}
