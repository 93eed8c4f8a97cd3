import { Link } from 'react-router'
import type { LedgerLine, Role } from '@/api'
import { Formula, Reading, Unit, columnWidths, Wide } from '@/ui'
import { Bar, Scale } from './Equivalents'
import { FromHandbook } from './FromHandbook'
import { Section } from './Section'
import { useForm } from './formContext'

const roles: { [K in Role]: string } = {
  limiting: 'limits',
  excess: 'in excess',
  product: 'theory',
  catalyst: 'catalyst',
  solvent: 'solvent',
  quench: 'to quench',
  wash: 'for washing',
  indicator: 'indicator',
  seed: 'seed',
  test: 'for a test',
  titrant: 'titrant',
  standard: 'standard',
  sample: 'sample',
}

const GRID =
  'grid grid-cols-[minmax(0,1.7fr)_minmax(0,0.7fr)_8.5rem_3.75rem_13.25rem_5.25rem] items-start gap-x-3'

/** The materials: form, amount, moles, and equivalents of the limiting one on a true scale. */
export function Ledger() {
  const { file, plan, edit } = useForm()
  const lines = plan?.materials ?? []
  const most = Math.max(1.2, ...lines.map((l) => l.equivalents?.high ?? 0))
  const end = Math.ceil(most * 4) / 4
  const widths = columnWidths(lines.flatMap((l) => (l.planned ? [l.planned.value] : [])))
  const moles = columnWidths(lines.flatMap((l) => (l.equivalents ? [l.equivalents.millimoles] : [])))
  const reacts = lines.some((l) => l.equivalents)
  return (
    <>
      <Wide label="the ledger, scrolls sideways">
        <div className="min-w-[46rem] desk:min-w-0 print:min-w-0">
          <Section
            name="materials"
            title="materials"
            items={file.materials ?? []}
            nameOf={(m) => m.name}
            empty="No materials yet. Add what is used up, what is made, and what it is washed with."
            add="add a material"
            head={
              reacts ? (
                <div className={`${GRID} pr-15 text-note text-slate`} aria-hidden="true">
                  <span className="col-start-3">amount</span>
                  <span className="text-right">
                    mmol
                    <span className="block">n/ν</span>
                  </span>
                  <span>
                    equivalents
                    <Scale end={end} />
                  </span>
                </div>
              ) : null
            }
          >
            {(material) => {
              const line = lines.find((l) => l.symbol === material.symbol)
              return (
                <div className={GRID}>
                  <div>
                    <Link
                      className="decoration-rule underline-offset-4 hover:underline"
                      to={`/handbook/substances?find=${encodeURIComponent(material.formula ?? material.name)}`}
                    >
                      {material.name}
                    </Link>
                    <span className="block text-note text-slate">
                      {line && line.formula.length > 0 ? <Formula runs={line.formula} /> : material.formula}
                      {material.also !== undefined && material.also !== '' && ` · ${material.also}`}
                    </span>
                    <Hazards of={material.hazards ?? []} />
                  </div>
                  <span className="text-note text-slate">{line?.form ?? material.form.kind}</span>
                  <span className="text-lead whitespace-nowrap">
                    {line?.planned && (
                      <>
                        <Reading text={line.planned.value} {...widths} />
                        <span className="ml-1 text-note text-slate">
                          {line.planned.band != null && `\u2009±\u2009${line.planned.band}`}
                          <Unit of={line.planned.unit} />
                        </span>
                      </>
                    )}
                    {line?.each != null && (
                      <span className="block text-note whitespace-normal text-slate">
                        each {line.each}
                        {line.in_all != null && `; ${line.in_all} in all`}
                      </span>
                    )}
                    {!line && <span className="text-note">{material.planned}</span>}
                  </span>
                  <span className="text-right text-lead">
                    {line?.equivalents && (
                      <>
                        <Reading text={line.equivalents.millimoles} {...moles} />
                        {line.equivalents.per_coefficient !== line.equivalents.millimoles && (
                          <span className="block text-note text-slate">
                            {line.equivalents.per_coefficient}
                          </span>
                        )}
                      </>
                    )}
                  </span>
                  <span>{line?.equivalents && <Bar line={line} end={end} />}</span>
                  <span
                    className={`whitespace-nowrap ${material.role === 'limiting' ? 'font-semibold text-copper-text' : ''}`}
                  >
                    {line ? wordsOf(line) : roles[material.role]}
                  </span>
                </div>
              )
            }}
          </Section>
        </div>
      </Wide>
      <FromHandbook onAdd={edit} />
    </>
  )
}

function wordsOf(line: LedgerLine): string {
  if (!line.equivalents || line.role !== 'excess') return roles[line.role]
  const over = (line.equivalents.planned - 1) * 100
  return over < 0 ? `${(-over).toFixed(0)} % short` : `${over.toFixed(0)} % over`
}

function Hazards({ of }: { of: readonly string[] }) {
  if (of.length === 0) return null
  return (
    <details className="text-note text-amber-text print:hidden">
      <summary>{of.length === 1 ? 'one hazard' : `${of.length} hazards`}</summary>
      {of.map((h) => (
        <p key={h}>{h}</p>
      ))}
    </details>
  )
}
