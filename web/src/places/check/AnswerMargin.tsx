import type { CheckView, Row, Verdict, WorkedView } from '@/api'
import { dayAndTime, MarginNote, setUnit, StateMark, Unit, Words } from '@/ui'
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
import type { Judged } from './stacks'

/** Beside an answer: the slip, the judgement in its three parts, and what else is known of it. */
export function AnswerMargin({
  view,
  judged,
  spec,
  result,
  worked,
  evidence,
  reading,
}: {
  view: CheckView
  judged: Judged
  spec: CheckView['results'][number] | undefined
  result: string
  worked: WorkedView | undefined
  evidence: boolean
  /** The reading whose source is wanted. */
  reading: string | null
}) {
  const { row, sheet, answer, verdict } = judged
  return (
    <aside aria-label="margin" className="flex flex-col gap-4 border-l border-copper pl-5 max-desk:mt-6">
      <Named verdict={verdict} hints={view.hints} results={view.results} />
      <Judgement verdict={verdict} />
      {worked?.formulas && <Allowed formulas={worked.formulas} />}
      <Carried view={view} judged={judged} />
      {verdict.absurd && (
        <MarginNote head="Impossible value:">they should have noticed. Have a word with them.</MarginNote>
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
          needs={worked?.needs ?? []}
          effects={worked?.effects ?? []}
          doubts={worked?.doubts ?? []}
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
          label={worked?.readings.find((r) => r.symbol === reading)}
        />
      )}
    </aside>
  )
}

/** Which formulas the masses allow. */
function Allowed({ formulas }: { formulas: NonNullable<WorkedView['formulas']> }) {
  return (
    <MarginNote head={formulas.allowed.length > 1 ? 'The masses cannot decide:' : 'The masses allow'}>
      <Words of={formulas.allowed.join(', ') || 'no formula of small whole numbers'} />
      {formulas.nearest_rejected != null && (
        <>
          , and not <Words of={formulas.nearest_rejected} />
        </>
      )}
      .
    </MarginNote>
  )
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
            : <Words of={first.instead} />, not <Words of={first.right} />
          </>
        )}
        .
      </p>
      {again !== undefined && <MarginNote head="Already penalised:">the same slip as at {again}.</MarginNote>}
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
      right, using their earlier {origins.join(' and ')} (error carried forward). The mark is lost once,
      there.
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
