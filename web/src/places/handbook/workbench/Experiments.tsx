import type { ComputeResponse } from '@/api'
import { MarginNote } from '@/ui'
import { remarkWords } from '@/words'
import { WorkedAnswer } from './WorkedAnswer'

type Of<K extends ComputeResponse['kind']> = Extract<ComputeResponse, { kind: K }>
type Found = Of<'gas'>

/** What somebody came to of a gas, of heat, of a charge: the figure that is asked for, the others, and what cannot be. */
export function FoundAnswer({ answer, main }: { answer: Pick<Found, 'worked' | 'remarks'>; main: string }) {
  const names = answer.worked.results.map((r) => r.name)
  return (
    <WorkedAnswer
      worked={answer.worked}
      main={main}
      also={names.filter((n) => n !== main)}
      notes={(answer.remarks ?? []).map((r) => (
        <p key={r} className="border-l-3 border-amber pl-2 text-note text-amber-text">
          {remarkWords(r)}
        </p>
      ))}
    />
  )
}

/** An unknown read off a line. */
export function LineAnswer({ answer }: { answer: Extract<Of<'calibration'>, { ask: 'unknown' }> }) {
  const { line, measured, original } = answer
  return (
    <>
      <p className="mb-4 text-title">
        <span className="text-slate">the unknown is</span>{' '}
        <span className="font-mono text-teal">{figures(original.x)}</span>
        {original.half_width_95 != null && (
          <span className="font-mono text-slate"> ± {figures(original.half_width_95, 2)}</span>
        )}
      </p>
      <table className="mb-4 border-collapse text-body">
        <tbody>
          <Row label="slope" value={line.slope} error={line.scatter?.standard.slope} />
          {line.intercept != null && (
            <Row label="intercept" value={line.intercept} error={line.scatter?.standard.intercept} />
          )}
          <Row label="read off, before any dilution" value={measured.x} error={measured.standard_error} />
          {line.scatter && <Row label="scatter about the line, s" value={line.scatter.residual_sd} />}
          {line.r_squared != null && <Row label="r²" value={line.r_squared} />}
        </tbody>
      </table>
      {original.half_width_95 != null ? (
        <MarginNote head="±">
          is two-sided, 95 %, from the scatter of {line.n} points about the line; what is in brackets is a
          standard error.
        </MarginNote>
      ) : (
        <MarginNote head="How sure?">
          Two points always lie on a line: a third shows how far they scatter.
        </MarginNote>
      )}
      {!measured.inside && (
        <p className="border-l-3 border-amber pl-2 text-note text-amber-text">
          It lies outside your standards: you do not know whether the line goes on there. Dilute it, or add a
          standard.
        </p>
      )}
    </>
  )
}

function Row({ label, value, error }: { label: string; value: number; error?: number | null | undefined }) {
  return (
    <tr className="border-b border-rule">
      <th scope="row" className="py-1 pr-8 text-left font-normal text-slate">
        {label}
      </th>
      <td className="py-1 font-mono">
        {figures(value)}
        {error != null && <span className="text-slate"> ({figures(error, 2)})</span>}
      </td>
    </tr>
  )
}

const figures = (value: number, count = 4): string => value.toPrecision(count)
