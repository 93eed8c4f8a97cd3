import { useState } from 'react'
import type { CheckView, Explanation, Row, Verdict } from '@/api'
import {
  Caliper,
  dayAndTime,
  Failure,
  MarginNote,
  setNumber,
  setUnit,
  StateMark,
  showsTie,
  Unit,
  Words,
  WorkedLines,
} from '@/ui'
import {
  digitsState,
  digitsWords,
  placeName,
  slipDid,
  slipHint,
  slipName,
  unitState,
  unitWords,
  valueState,
  valueWords,
} from '@/words'
import { Evidence } from './Evidence'
import { Hypotheses } from './Hypotheses'
import { Ruling, type Saying } from './Ruling'
import { useWorked } from './useCheck'
import type { Judged } from './stacks'

/** One answer: judged on value, unit and digits apart, over the worked solution from the group's own readings. */
export function Answer({
  view,
  result,
  judged,
  alike,
  evidence,
  saying,
  error,
  onSaying,
  onSay,
  onSheet,
}: {
  view: CheckView
  result: string
  judged: Judged
  alike: readonly Judged[]
  /** What came close and what the bench may have done is shown as well. */
  evidence: boolean
  saying: Saying
  error: Error | null
  onSaying: (saying: Saying) => void
  onSay: Parameters<typeof Ruling>[0]['onSay']
  onSheet: (key: string) => void
}) {
  const { row, sheet, answer, verdict } = judged
  const worked = useWorked(view.run.id, row.group, result)
  const [reading, setReading] = useState<string | null>(null)
  const [whole, setWhole] = useState(false)
  const spec = view.results.find((r) => r.name === result)
  const comparison = verdict.comparison
  const named = verdict.diagnosis.named[0]
  const tie = tieOf(named)
  const lines = worked.data?.lines ?? []
  // What was asked for on the way, where it differs, and the result itself; every step on request.
  const telling = lines.filter(
    (l, i) =>
      i === lines.length - 1 ||
      view.results.some((r) => r.name === l.name) ||
      showsTie(l, tie) ||
      named?.at.what.some((part) => part.symbol === l.name),
  )
  const near = comparison && comparison.ratio > 0.7 && comparison.ratio < 1.4
  return (
    <section
      aria-label={`${sheet.name}'s answer`}
      className="grid gap-x-8 desk:grid-cols-[minmax(0,1fr)_15rem]"
    >
      <div>
        <p className="mb-1.5 flex flex-wrap items-baseline gap-x-3 text-note text-slate">
          <b className="text-body text-ink">{sheet.name}</b>
          {alike.length > 1 && (
            <span className="flex flex-wrap gap-x-3">
              one of {alike.length} alike:
              {alike
                .filter((j) => j !== judged)
                .map((j) => (
                  <button
                    key={j.sheet.key}
                    type="button"
                    className="min-h-6 text-copper-text underline underline-offset-4"
                    onClick={() => {
                      onSheet(j.sheet.key)
                    }}
                  >
                    {j.sheet.name}
                  </button>
                ))}
            </span>
          )}
        </p>
        <dl className="grid grid-cols-[auto_minmax(0,1fr)] items-baseline gap-x-4 border-t border-ink py-3 tablet:grid-cols-[auto_auto_minmax(0,1fr)]">
          <Pair
            name="answered"
            value={answerText(view, answer.text)}
            unit={answer.unit || noUnit(spec)}
            strong
          />
          <Recomputed row={row} result={result} chosen={spec?.answer === 'limiting'} />
        </dl>
        {comparison && near && spec && (
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
        {worked.data && (
          <WorkedLines
            lines={whole ? lines : telling}
            onReading={setReading}
            tie={tie}
            answered={
              verdict.value.kind === 'right' || spec?.answer !== 'number'
                ? undefined
                : { text: answer.text, unit: answer.unit }
            }
          />
        )}
        {telling.length < lines.length && (
          <button
            type="button"
            className="mb-2 min-h-6 text-note text-slate underline underline-offset-4 print:hidden"
            onClick={() => {
              setWhole(!whole)
            }}
          >
            {whole ? 'only what tells' : `all ${lines.length} steps`}
          </button>
        )}
        <Ruling
          judged={judged}
          spec={spec}
          saying={saying}
          remarks={view.remarks}
          alike={alike.filter((j) => !j.reviewed).length}
          error={error}
          onSaying={onSaying}
          onSay={onSay}
        />
      </div>
      <aside aria-label="margin" className="flex flex-col gap-4 border-l border-copper pl-5 max-desk:mt-6">
        <Named verdict={verdict} hints={view.hints} results={view.results} />
        <Judgement verdict={verdict} />
        {worked.data?.formulas && (
          <MarginNote
            head={worked.data.formulas.allowed.length > 1 ? 'The masses cannot decide:' : 'The masses allow'}
          >
            <Words of={worked.data.formulas.allowed.join(', ') || 'no formula of small whole numbers'} />
            {worked.data.formulas.nearest_rejected != null && (
              <>
                , and not <Words of={worked.data.formulas.nearest_rejected} />
              </>
            )}
            .
          </MarginNote>
        )}
        <Carried view={view} judged={judged} />
        {verdict.absurd && (
          <MarginNote head="No result can be so:">
            whatever led to it, they could have seen it. Worth a word with them.
          </MarginNote>
        )}
        <Hypotheses of={row.outcome.hypotheses} />
        {sheet.stale[result] && (
          <MarginNote head="Readings corrected since:">
            when this was answered it was {valueWords(sheet.stale[result].value)}; by the readings that stand
            now it is {valueWords(verdict.value)}.
          </MarginNote>
        )}
        {evidence && (
          <Evidence
            verdict={verdict}
            needs={worked.data?.needs ?? []}
            effects={worked.data?.effects ?? []}
            doubts={worked.data?.doubts ?? []}
          />
        )}
        <p className="text-note text-slate">
          sent {dayAndTime(answer.at)}
          {spec && spec.most > 0 && ` · ${sheet.given[result] ?? 0} of ${spec.most} marks`}
        </p>
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

const noUnit = (spec: CheckView['results'][number] | undefined) =>
  spec?.answer === 'number' && spec.unit !== '1' ? 'no unit' : ''

/** A reagent by its name; anything else as it was typed. */
const answerText = (view: CheckView, text: string) => (/^\d/.test(text) ? text : (view.labels[text] ?? text))

/** The number that stood in the place of another one, for the copper tie. */
function tieOf(named: Explanation | undefined) {
  const number = (text: string) => text.split(' ')[0] ?? ''
  if (named?.right == null || named.instead == null) return undefined
  return { right: number(named.right), instead: number(named.instead) }
}

/** The slip that explains it, what it was, and what the group would read. */
function Named({
  verdict,
  hints,
  results,
}: {
  verdict: Verdict
  hints: CheckView['hints']
  results: CheckView['results']
}) {
  const [first, ...rivals] = verdict.diagnosis.named
  if (!first) {
    if (verdict.value.kind !== 'wrong') return null
    return <MarginNote head="Cause unclear.">No slip explains this clearly enough to be named.</MarginNote>
  }
  const again = results.find((r) => r.name === first.again)?.label
  return (
    <div className="flex flex-col gap-2">
      <p className="text-lead font-semibold text-copper-text">{slipName(first.slip)}</p>
      <p>
        {slipDid(first.slip, first.at)}
        {first.right != null && first.instead != null && (
          <>
            : <Words of={first.instead} /> for <Words of={first.right} />
          </>
        )}
        .
      </p>
      {again !== undefined && <MarginNote head="Lost already:">the same slip as at {again}.</MarginNote>}
      {rivals.length > 0 && (
        <p className="text-note text-slate">
          or, with the same number: {rivals.map((r) => slipName(r.slip)).join(', ')}
        </p>
      )}
      <p className="text-note text-slate">
        Hint they would read: “{hints[first.slip] ?? slipHint(first.slip, placeName(first.at))}”
      </p>
    </div>
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

function Recomputed({ row, result, chosen }: { row: Row; result: string; chosen: boolean }) {
  if (chosen) {
    const limits = row.outcome.limiting?.limits
    return limits === undefined ? null : <Pair name="recomputed" value={limits} unit="" />
  }
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

function Carried({ view, judged }: { view: CheckView; judged: Judged }) {
  const { verdict, sheet } = judged
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
    const own = sheet.answers[name]
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
