import type { MaterialItem, ProblemReading, ProblemView } from '@/api'
import { columnWidths, Reading, Unit, Words } from '@/ui'

/** What is given: equations, what is known of the substances, the readings, what was seen. */
export function GivenList({ view }: { view: ProblemView }) {
  const trials = view.readings.filter((r) => r.spec.axis != null)
  const once = view.readings.filter((r) => r.spec.axis == null)
  return (
    <section aria-label="what is given">
      {view.equations.map((equation) => (
        <p key={equation} className="text-lead">
          <Words of={equation.replace('->', '→')} />
        </p>
      ))}
      <ul aria-label="substances" className="my-3 text-slate">
        {view.materials.map((m) => (
          <li key={m.symbol}>
            <Words of={m.name} />
            {m.formula != null && (
              <>
                , <Words of={m.formula} />
              </>
            )}
            {!view.to_find.includes(m.symbol) && known(m) !== null && `: ${known(m) ?? ''}`}
          </li>
        ))}
      </ul>
      <table className="w-full border-collapse">
        <caption className="sr-only">readings</caption>
        <tbody>
          {once.map((r) => (
            <tr key={r.spec.symbol} className="border-t border-rule align-baseline">
              <th scope="row" className="py-1.5 pr-4 text-left font-normal">
                <Words of={r.spec.label} />
              </th>
              <td className="py-1.5 text-right whitespace-nowrap">
                <Reading text={r.text} {...columnWidths(once.map((o) => o.text))} />
                <Unit of={r.spec.unit} />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {trials.length > 0 && <Trials readings={trials} />}
      {view.seen.length > 0 && (
        <dl className="mt-4 text-slate">
          {view.seen.map(([question, seen]) => (
            <div key={question} className="flex flex-wrap gap-x-3 border-t border-rule py-1.5">
              <dt>{question}</dt>
              <dd className="text-ink">{seen}</dd>
            </div>
          ))}
        </dl>
      )}
    </section>
  )
}

/** Readings that repeat: a row for each trial. */
function Trials({ readings }: { readings: readonly ProblemReading[] }) {
  const columns = [...new Set(readings.map((r) => r.spec.reading))]
  const at = (r: ProblemReading) => r.spec.symbol.slice(r.spec.reading.length)
  const rows = [...new Set(readings.map(at))]
  const of = (column: string) => readings.filter((r) => r.spec.reading === column)
  return (
    <table className="mt-4 w-full border-collapse">
      <caption className="sr-only">readings of each trial</caption>
      <thead>
        <tr className="border-b border-ink text-left text-note text-slate">
          <th className="py-1 pr-4 font-normal">{readings[0]?.spec.axis}</th>
          {columns.map((c) => (
            <th key={c} className="py-1 pr-4 text-right font-normal">
              <Words of={`${wordsOf(of(c)[0])} / ${of(c)[0]?.spec.unit ?? ''}`} />
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map((row, i) => (
          <tr key={row} className="border-b border-rule">
            <th scope="row" className="py-1.5 pr-4 text-left font-normal text-slate">
              {i + 1}
            </th>
            {columns.map((c) => {
              const found = of(c).find((r) => at(r) === row)
              return (
                <td key={c} className="py-1.5 pr-4 text-right">
                  {found && <Reading text={found.text} {...columnWidths(of(c).map((o) => o.text))} />}
                </td>
              )
            })}
          </tr>
        ))}
      </tbody>
    </table>
  )
}

/** What a column is headed with: the label of its first place, less what tells the places apart. */
function wordsOf(first: ProblemReading | undefined): string {
  if (first === undefined) return ''
  return first.spec.label.split(`, ${first.spec.axis ?? ''} `)[0] ?? ''
}

/** What is known of a substance for a sum. */
function known(material: MaterialItem): string | null {
  const form = material.form
  switch (form.kind) {
    case 'solution':
      return form.strength
    case 'solid':
      return form.purity ?? null
    case 'liquid':
      return [form.density, form.purity].filter((t) => t != null).join(', ') || null
    case 'saturated':
      return `saturated at ${form.at}`
    case 'gas':
      return `${form.pressure}, ${form.temperature}`
  }
}
