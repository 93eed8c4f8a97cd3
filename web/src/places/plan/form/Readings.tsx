import { Name, Reading, Unit, columnWidths } from '@/ui'
import { Section } from './Section'
import { useForm } from './formContext'

/** What is written down, and what is looked at. */
export function Readings() {
  const { file } = useForm()
  const readings = file.readings ?? []
  const widths = columnWidths(readings.map((r) => r.expected))
  return (
    <>
      <Section
        name="readings"
        title="readings"
        items={readings}
        nameOf={(r) => r.label}
        empty="No readings yet. What no reading holds, no result can be computed from."
        add="add a reading"
      >
        {(r) => (
          <div className="grid grid-cols-[minmax(0,1.4fr)_minmax(0,1fr)_9rem_9rem] gap-x-4">
            <span>
              {r.label}
              <span className="block text-note text-slate">
                <Name of={r.symbol} />
                {r.kind !== undefined && r.kind !== 'number' && ` · ${r.kind}`}
                {r.repeats != null &&
                  ` · for each ${r.repeats.axis}, up to ${r.repeats.most}${r.repeats.rough ? `, ${r.repeats.rough} rough` : ''}`}
              </span>
            </span>
            <span className="text-note text-slate">{r.instrument}</span>
            <span className="whitespace-nowrap">
              <Reading text={r.expected} {...widths} />
              <Unit of={r.unit} />
            </span>
            <span className="font-mono text-note whitespace-nowrap text-slate">{r.range.join(' to ')}</span>
          </div>
        )}
      </Section>
      <Section
        name="observations"
        title="observations"
        items={file.observations ?? []}
        nameOf={(o) => o.symbol}
        empty="No observations. A colour or a gas often decides what the numbers cannot."
        add="add an observation"
      >
        {(o) => (
          <>
            <p>{o.question}</p>
            <p className="text-note text-slate">
              {(o.choices ?? []).map((c, i) => (
                <span key={c}>
                  {i > 0 && ' · '}
                  {c === o.expected ? <b className="font-semibold text-teal">{c}</b> : c}
                </span>
              ))}
              {o.kind === 'code' && 'one of the codes of the unknowns'}
            </p>
            {o.kind === 'spot-test' && (
              <p className="text-note text-slate">
                beside {o.positive_control} (positive) and {o.negative_control} (negative)
              </p>
            )}
          </>
        )}
      </Section>
    </>
  )
}
