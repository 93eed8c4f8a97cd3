import type { ReactNode } from 'react'
import type { ComputeResponse } from '@/api'
import { columnWidths, Formula, MarginNote, Reading, StateMark, Unit, Words } from '@/ui'
import { Curve } from './Curve'
import { FoundAnswer, LineAnswer } from './Experiments'
import { WorkedAnswer } from './WorkedAnswer'

/** What the core answered, by kind. */
export function Answer({ answer }: { answer: ComputeResponse }) {
  switch (answer.kind) {
    case 'formula':
      return <FormulaAnswer answer={answer} />
    case 'equation':
      return <EquationAnswer answer={answer} />
    case 'reaction':
      return answer.ask === 'yield' ? <YieldAnswer answer={answer} /> : null
    case 'solution':
      return <SolutionAnswer answer={answer} />
    case 'titration':
      return <TitrationAnswer answer={answer} />
    case 'composition':
      return <CompositionAnswer answer={answer} />
    case 'acid_base':
      return answer.ask === 'titration' ? <Curve curve={answer} /> : null
    case 'sheet':
      return <SheetAnswer answer={answer} />
    case 'calibration':
      return answer.ask === 'unknown' ? <LineAnswer answer={answer} /> : null
    case 'gas':
      return <FoundAnswer answer={answer} main="n" />
    case 'calorimetry':
      return <FoundAnswer answer={answer} main="enthalpy" />
    case 'electrochemistry':
      return answer.ask === 'worked' ? <FoundAnswer answer={answer} main="efficiency" /> : null
    case 'kinetics':
    case 'equilibrium':
    case 'number':
    case 'statistics':
    case 'practical':
    case 'check':
    case 'cohort':
    case 'bench':
    case 'simulate':
    case 'run_down':
    case 'schedule':
    case 'prepare':
      // The workbench does not ask these; the command line and the interface do.
      return null
  }
}

type Of<K extends ComputeResponse['kind']> = Extract<ComputeResponse, { kind: K }>

function Head({ children, note }: { children: ReactNode; note?: ReactNode }) {
  return (
    <div className="mb-4">
      <p className="text-title">{children}</p>
      {note && <p className="text-slate">{note}</p>}
    </div>
  )
}

function FormulaAnswer({ answer }: { answer: Of<'formula'> }) {
  const counts = columnWidths(answer.composition.map((a) => String(a.count)))
  const percents = columnWidths(answer.composition.map((a) => a.percent.toFixed(2)))
  return (
    <>
      <Head
        note={
          <>
            {answer.expanded != null &&
              `U = ${answer.expanded} g/mol, k = 2, from the tolerances of the atomic masses`}
            {answer.charge !== 0 && ' · the electrons of an ion are not counted'}
          </>
        }
      >
        <Formula runs={answer.runs} /> <span className="text-slate">weighs</span>{' '}
        <span className="font-mono text-teal">{answer.molar_mass.toFixed(3)}</span>
        <Unit of="g/mol" />
      </Head>
      <table className="border-collapse">
        <thead>
          <tr className="border-b border-ink text-left text-note text-slate">
            <th className="py-1 pr-8 font-normal">element</th>
            <th className="py-1 pr-8 font-normal">in one unit</th>
            <th className="py-1 pr-4 font-normal">percent by mass</th>
            <th className="py-1 font-normal">
              <span className="sr-only">share</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {answer.composition.map((a) => (
            <tr key={a.symbol} className="border-b border-rule">
              <th scope="row" className="py-1.5 pr-8 text-left font-semibold">
                {a.symbol}
              </th>
              <td className="py-1.5 pr-8">
                <Reading text={String(a.count)} {...counts} />
              </td>
              <td className="py-1.5 pr-4">
                <Reading text={a.percent.toFixed(2)} {...percents} />
              </td>
              <td className="py-1.5">
                <svg width="204" height="14" aria-hidden="true">
                  <rect x="0" y="2" width={a.percent * 2} height="9" className="fill-copper" />
                  {Array.from({ length: 11 }, (_, i) => (
                    <path
                      key={i}
                      d={`M${i * 20 + 0.5} ${i % 5 === 0 ? 7 : 10}V14`}
                      className="stroke-pencil"
                    />
                  ))}
                </svg>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </>
  )
}

function EquationAnswer({ answer }: { answer: Of<'equation'> }) {
  const { balance } = answer
  return (
    <>
      <Head>
        {balance.status === 'unique' ? <Formula runs={balance.runs} /> : <Formula runs={answer.runs} />}
      </Head>
      {balance.status === 'unique' && (
        <p>
          <StateMark kind="settled" />{' '}
          {answer.balanced_as_typed
            ? 'Balanced as typed; these are the smallest whole numbers.'
            : 'Balanced with the smallest whole numbers.'}
        </p>
      )}
      {balance.status === 'impossible' && (
        <p className="text-magenta">
          <StateMark kind="wrong" /> It cannot be balanced: {balance.reason}.
        </p>
      )}
      {balance.status === 'underdetermined' && (
        <p className="text-amber-text">
          <StateMark kind="doubtful" /> There is more than one independent way: {answer.dimension} reactions
          are written as one. One of many: {balance.example.join(', ')}. Write them apart.
        </p>
      )}
      {answer.differences.length > 0 && (
        <table className="mt-5 border-collapse">
          <caption className="mb-1 text-left text-note text-slate">as typed, these differ</caption>
          <tbody>
            {answer.differences.map((d) => (
              <tr key={d.what} className="border-t border-rule">
                <th scope="row" className="py-1 pr-8 text-left font-semibold">
                  {d.what}
                </th>
                <td className="py-1 pr-8 font-mono">{d.left} on the left</td>
                <td className="py-1 font-mono">{d.right} on the right</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </>
  )
}

function whatLimits(answer: Extract<Of<'reaction'>, { ask: 'yield' }>): string {
  const limiting = answer.reagents.filter((r) => r.limits).map((r) => r.species)
  if (answer.tie) return `${limiting.join(' and ')} run out together, to the last digit.`
  const over = answer.reagents
    .filter((r) => !r.limits)
    .map((r) => `${r.species} is ${r.excess_percent.toPrecision(2)} % over`)
  return `${[limiting.join(' and '), ...over].join('; ')}.`
}

function YieldAnswer({ answer }: { answer: Extract<Of<'reaction'>, { ask: 'yield' }> }) {
  const chances = answer.reagents.filter((r) => r.probability != null)
  const main = answer.worked.results.some((r) => r.name === 'percent_yield') ? 'percent_yield' : 'm_theory'
  return (
    <WorkedAnswer
      worked={answer.worked}
      main={answer.worked.results.some((r) => r.name === main) ? main : 'extent'}
      also={['m_theory', ...answer.reagents.map((r) => `left_supply_${r.symbol}`)]}
      notes={
        <>
          <MarginNote head={answer.tie ? 'Tie:' : 'Limits:'}>
            <Words of={whatLimits(answer)} />
          </MarginNote>
          {chances.length > 0 && (
            <MarginNote head="Near a tie:">
              {chances
                .map((r) => `${r.species} limits in ${((r.probability ?? 0) * 100).toFixed(0)} of 100 draws`)
                .join('; ')}
              .
            </MarginNote>
          )}
        </>
      }
    />
  )
}

function SolutionAnswer({ answer }: { answer: Of<'solution'> }) {
  if (!answer.worked) return null
  const names = answer.worked.results.map((r) => r.name)
  const main = ['m_solute', 'V_stock', 'c'].find((n) => names.includes(n)) ?? names[0] ?? ''
  return (
    <WorkedAnswer
      worked={answer.worked}
      main={main}
      also={names.filter((n) => n !== main)}
      notes={
        <>
          {answer.rounded && (
            <MarginNote head="Weigh:">
              {answer.rounded.take} g; that makes {(answer.rounded.achieved * 100).toFixed(2)} % of the
              strength wanted.
            </MarginNote>
          )}
          {answer.cautions.map((c) => (
            <p key={c} className="border-l-3 border-amber pl-2 text-note text-amber-text">
              {c}
            </p>
          ))}
        </>
      }
    />
  )
}

function TitrationAnswer({ answer }: { answer: Of<'titration'> }) {
  const set = answer.agreement?.sets[0]
  if (!answer.worked) return null
  return (
    <WorkedAnswer
      worked={answer.worked}
      main="c_titrant"
      also={['c_primary', 'V_mean']}
      notes={
        set && (
          <MarginNote head="Concordant:">
            titres {set.indices.map((i) => i + 1).join(', ')} agree within {set.range.toFixed(2)} mL; s ={' '}
            {set.sd.toPrecision(2)} mL, which a chosen set makes look better than it is.
          </MarginNote>
        )
      }
    />
  )
}

function SheetAnswer({ answer }: { answer: Of<'sheet'> }) {
  const main = answer.results.at(-1)?.name ?? ''
  const also = answer.results.slice(0, -1).map((r) => r.name)
  return (
    <WorkedAnswer
      worked={answer}
      main={main}
      also={also}
      notes={answer.formulas.map((f) => (
        <MarginNote key={f.name} head={`${f.name}:`}>
          {verdicts[f.status]}
          {f.consistent.length > 1 && (
            <>
              {'; best first '}
              <Words of={f.consistent.map((c) => c.formula).join(', ')} />
            </>
          )}
        </MarginNote>
      ))}
    />
  )
}

const verdicts = {
  unique: 'one formula fits',
  ambiguous: 'ambiguous: the data cannot decide',
  none: 'no candidate fits',
} as const

function CompositionAnswer({ answer }: { answer: Of<'composition'> }) {
  switch (answer.ask) {
    case 'formula':
    case 'hydrate': {
      const state =
        answer.status === 'unique' ? 'settled' : answer.status === 'ambiguous' ? 'doubtful' : 'wrong'
      const decided = answer.ask === 'formula' ? answer.decided_by_percent : null
      return (
        <WorkedAnswer
          worked={answer.worked}
          main={answer.ask === 'hydrate' ? 'x' : (answer.worked.results[0]?.name ?? '')}
          also={answer.worked.results
            .slice(answer.ask === 'hydrate' ? 0 : 1)
            .map((r) => r.name)
            .filter((n) => n !== 'x')}
          lead={
            <Head
              note={
                answer.consistent.length > 1
                  ? `fits as well: ${answer.consistent
                      .slice(1)
                      .map((c) => c.formula)
                      .join(', ')}`
                  : undefined
              }
            >
              <Words of={answer.consistent[0]?.formula ?? 'none'} />{' '}
              <span className="text-body text-slate">
                <StateMark kind={state} /> {verdicts[answer.status]}
              </span>
            </Head>
          }
          notes={
            <>
              {answer.consistent.map((c) => (
                <MarginNote key={c.formula} head={c.formula}>
                  χ² = {c.chi_squared.toPrecision(3)}
                </MarginNote>
              ))}
              {decided != null && (
                <MarginNote head="To decide:">
                  amounts good to {decided.toPrecision(1)} % would leave the best one alone.
                </MarginNote>
              )}
            </>
          }
        />
      )
    }
    case 'gravimetric':
    case 'molecular':
    case 'magnetic-moment':
      return null
  }
}
