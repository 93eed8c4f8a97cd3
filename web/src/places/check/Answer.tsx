import { useState } from 'react'
import type { CheckView, Explanation, Row, Verdict, WorkedView } from '@/api'
import { Caliper, Failure, setNumber, setUnit, showsTie, Unit, WorkedLines, WorkedBy } from '@/ui'
import { valueState, schoolWords } from '@/words'
import { AnswerMargin } from './AnswerMargin'
import { Ruling, type Saying } from './Ruling'
import type { Judged } from './stacks'
import { useWorked } from './useCheck'

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
  onTakeBack,
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
  onTakeBack: () => void
  onSay: Parameters<typeof Ruling>[0]['onSay']
  onSheet: (key: string) => void
}) {
  const { row, sheet, answer, verdict } = judged
  const worked = useWorked(view.run.id, row.group, result)
  const [reading, setReading] = useState<string | null>(null)
  const spec = view.results.find((r) => r.name === result)
  return (
    <section
      aria-label={`${sheet.name}'s answer`}
      className="grid gap-x-8 desk:grid-cols-[minmax(0,1fr)_15rem]"
    >
      <div>
        <p className="mb-1.5 flex flex-wrap items-baseline gap-x-3 text-note text-slate">
          <b className="text-body text-ink">{sheet.name}</b>
          <Alike judged={judged} alike={alike} onSheet={onSheet} />
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
        <Near verdict={verdict} spec={spec} />
        <h2 className="mt-4 mb-1.5 text-note text-ink">worked from their own readings</h2>
        {worked.isPending && <p className="text-slate">Working it out …</p>}
        {worked.isError && <Failure error={worked.error} />}
        {worked.data && (
          <Solution
            lines={worked.data.lines}
            view={view}
            named={verdict.diagnosis.named[0]}
            answered={
              verdict.value.kind === 'right' || spec?.answer !== 'number'
                ? undefined
                : { text: answer.text, unit: answer.unit }
            }
            onReading={setReading}
          />
        )}
        {worked.data && <WorkedBy words={schoolWords(worked.data.school)} />}
        <Ruling
          judged={judged}
          spec={spec}
          saying={saying}
          remarks={view.remarks}
          alike={alike.filter((j) => !j.reviewed).length}
          error={error}
          onSaying={onSaying}
          onTakeBack={onTakeBack}
          onSay={onSay}
        />
      </div>
      <AnswerMargin
        view={view}
        judged={judged}
        spec={spec}
        result={result}
        worked={worked.data}
        evidence={evidence}
        reading={reading}
      />
    </section>
  )
}

/** Others with the very same answer, each a way to their sheet. */
function Alike({
  judged,
  alike,
  onSheet,
}: {
  judged: Judged
  alike: readonly Judged[]
  onSheet: (key: string) => void
}) {
  if (alike.length < 2) return null
  return (
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
  )
}

/** The caliper over answer and recomputed value, where both lie on one scale. */
function Near({ verdict, spec }: { verdict: Verdict; spec: Spec | undefined }) {
  const { comparison } = verdict
  if (!comparison || !spec || comparison.ratio <= 0.7 || comparison.ratio >= 1.4) return null
  return (
    <Caliper
      from={comparison.answered - comparison.half_width}
      to={comparison.answered + comparison.half_width}
      mark={comparison.expected}
      tolerance={comparison.tolerance}
      unit={setUnit(spec.unit)}
      right={valueState(verdict.value) === 'settled'}
    />
  )
}

/** The worked solution: what was asked for on the way, where it differs, and the result; every step on request. */
function Solution({
  lines,
  view,
  named,
  answered,
  onReading,
}: {
  lines: WorkedView['lines']
  view: CheckView
  named: Explanation | undefined
  answered: { text: string; unit: string } | undefined
  onReading: (symbol: string) => void
}) {
  const [whole, setWhole] = useState(false)
  const tie = tieOf(named)
  const telling = lines.filter(
    (l, i) =>
      i === lines.length - 1 ||
      view.results.some((r) => r.name === l.name) ||
      showsTie(l, tie) ||
      named?.at.what.some((part) => part.symbol === l.name),
  )
  return (
    <>
      <WorkedLines lines={whole ? lines : telling} onReading={onReading} tie={tie} answered={answered} />
      {telling.length < lines.length && (
        <button
          type="button"
          className="mb-2 min-h-6 text-note text-slate underline underline-offset-4 print:hidden"
          onClick={() => {
            setWhole(!whole)
          }}
        >
          {whole ? 'key steps only' : `all ${lines.length} steps`}
        </button>
      )}
    </>
  )
}

type Spec = CheckView['results'][number]

const noUnit = (spec: Spec | undefined) => (spec?.answer === 'number' && spec.unit !== '1' ? 'no unit' : '')

/** A reagent by its name; anything else as it was typed. */
const answerText = (view: CheckView, text: string) => (/^\d/.test(text) ? text : (view.labels[text] ?? text))

/** The number that stood in the place of another one, for the copper tie. */
function tieOf(named: Explanation | undefined) {
  const number = (text: string) => text.split(' ')[0] ?? ''
  if (named?.right == null || named.instead == null) return undefined
  return { right: number(named.right), instead: number(named.instead) }
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
