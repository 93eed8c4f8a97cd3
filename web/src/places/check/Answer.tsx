import { useState } from 'react'
import type { CheckView, Row, Verdict } from '@/api'
import {
  Caliper,
  dayAndTime,
  Failure,
  MarginNote,
  setNumber,
  setUnit,
  StateMark,
  Unit,
  WorkedLines,
} from '@/ui'
import { digitsState, digitsWords, unitState, unitWords, valueState, valueWords } from '@/words'
import { useWorked } from './useCheck'
import type { Judged } from './stacks'

/** One group's answer: judged on value, unit and digits apart, over the worked solution from its own readings. */
export function Answer({
  view,
  result,
  judged,
  alike,
  onGroup,
}: {
  view: CheckView
  result: string
  judged: Judged
  alike: readonly Judged[]
  onGroup: (group: number) => void
}) {
  const { row, answer, verdict } = judged
  const worked = useWorked(view.run.id, row.group, result)
  const [reading, setReading] = useState<string | null>(null)
  const spec = view.results.find((r) => r.name === result)
  const comparison = verdict.comparison
  return (
    <section
      aria-label={`${row.name}'s answer`}
      className="grid gap-x-8 desk:grid-cols-[minmax(0,1fr)_14rem]"
    >
      <div>
        <p className="mb-1.5 flex flex-wrap items-baseline gap-x-3 text-note text-slate">
          <b className="text-body text-ink">{row.name}</b>
          {alike.length > 1 && (
            <span className="flex flex-wrap gap-x-3">
              one of {alike.length} alike:
              {alike
                .filter((j) => j !== judged)
                .map((j) => (
                  <button
                    key={j.row.group}
                    type="button"
                    className="min-h-6 text-copper-text underline underline-offset-4"
                    onClick={() => {
                      onGroup(j.row.group)
                    }}
                  >
                    {j.row.name}
                  </button>
                ))}
            </span>
          )}
        </p>
        <dl className="grid grid-cols-[auto_minmax(0,1fr)] items-baseline gap-x-4 border-t border-ink py-3 tablet:grid-cols-[auto_auto_minmax(0,1fr)]">
          <Pair name="answered" value={answer.text} unit={answer.unit || 'no unit'} strong />
          {comparison && <Recomputed row={row} result={result} />}
        </dl>
        {comparison && spec && (
          <Caliper
            from={comparison.answered - comparison.half_width}
            to={comparison.answered + comparison.half_width}
            mark={comparison.expected}
            tolerance={comparison.tolerance}
            unit={setUnit(spec.unit)}
            right={valueState(verdict.value) === 'settled'}
          />
        )}
        <h2 className="mt-4 mb-1.5 text-note text-ink">worked from their own readings</h2>
        {worked.isPending && <p className="text-slate">Working it out …</p>}
        {worked.isError && <Failure error={worked.error} />}
        {worked.data && <WorkedLines lines={worked.data.lines} onReading={setReading} />}
      </div>
      <aside aria-label="margin" className="flex flex-col gap-4 border-l border-copper pl-5 max-desk:mt-6">
        <Judgement verdict={verdict} />
        <Carried view={view} row={row} verdict={verdict} />
        <p className="text-note text-slate">sent {dayAndTime(answer.at)}</p>
        {answer.struck.map((s, i) => (
          <p key={i} className="text-note text-slate">
            before: <s className="font-mono">{s.text}</s> {s.reason}
          </p>
        ))}
        {reading !== null && (
          <ReadingSource
            row={row}
            symbol={reading}
            label={worked.data?.readings.find((r) => r.symbol === reading)}
          />
        )}
      </aside>
    </section>
  )
}

function Pair({
  name,
  value,
  unit,
  strong = false,
}: {
  name: string
  value: string
  unit: string
  strong?: boolean
}) {
  return (
    <div className="pr-8">
      <dt className="text-note text-slate">{name}</dt>
      <dd className={`font-mono text-title ${strong ? '' : 'text-teal'}`}>
        {setNumber(value)}
        <span className="text-lead">
          <Unit of={unit} />
        </span>
      </dd>
    </div>
  )
}

function Recomputed({ row, result }: { row: Row; result: string }) {
  const state = row.outcome.results.find((r) => r.name === result)?.state
  if (state?.kind !== 'value') return null
  return (
    <>
      <Pair name="recomputed" value={state.text} unit={state.unit} />
      {state.expanded && (
        <div className="self-end pb-1 text-note text-slate">
          <dt className="sr-only">uncertainty</dt>
          <dd>
            U = {state.expanded}
            <Unit of={state.unit} />, k = 2
          </dd>
        </div>
      )}
    </>
  )
}

/** Value, unit and digits apart, each with its shape. */
function Judgement({ verdict }: { verdict: Verdict }) {
  const lines = [
    { name: 'value', state: valueState(verdict.value), words: valueWords(verdict.value) },
    { name: 'unit', state: unitState(verdict.unit), words: unitWords(verdict.unit) },
    { name: 'digits', state: digitsState(verdict.digits), words: digitsWords(verdict.digits) },
  ]
  return (
    <dl className="grid grid-cols-[auto_auto_minmax(0,1fr)] gap-x-2.5 gap-y-1.5">
      {lines.map((line) => (
        <div key={line.name} className="contents">
          <dt className="text-slate">{line.name}</dt>
          <dd className="contents">
            <StateMark kind={line.state} />
            <span>{line.words}</span>
          </dd>
        </div>
      ))}
    </dl>
  )
}

function Carried({ view, row, verdict }: { view: CheckView; row: Row; verdict: Verdict }) {
  if (verdict.value.kind !== 'carried-forward') {
    const times = verdict.comparison?.ratio_shown
    if (verdict.value.kind !== 'wrong' || times === undefined) return null
    return (
      <MarginNote head={`${times} times`}>
        the recomputed value; no earlier answer of theirs explains it.
      </MarginNote>
    )
  }
  const origins = verdict.value.origins.map((name) => {
    const spec = view.results.find((r) => r.name === name)
    const own = row.answers[name]
    return `${spec?.label ?? name}, ${own?.text ?? ''} ${own ? setUnit(own.unit) : ''}`
  })
  return (
    <MarginNote head="Carried forward:">
      right with their own {origins.join(' and ')}. The mark is lost once, there.
    </MarginNote>
  )
}

function ReadingSource({
  row,
  symbol,
  label,
}: {
  row: Row
  symbol: string
  label: { label: string; instrument: string } | undefined
}) {
  const entered = row.readings[symbol]
  if (!entered || !label) return null
  return (
    <MarginNote head={`${label.label}:`}>
      <span className="font-mono">
        {entered.text}
        <Unit of={entered.unit} />
      </span>
      , {label.instrument}, {entered.about && 'about '}
      {dayAndTime(entered.at)}
      {entered.struck.map((s, i) => (
        <span key={i}>
          {' '}
          · before <s>{s.text}</s> {s.reason}
        </span>
      ))}
    </MarginNote>
  )
}
