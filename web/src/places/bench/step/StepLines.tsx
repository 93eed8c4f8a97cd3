import type { BenchView, ReadingSpec } from '@/api'
import type { StateKind } from '@/ui'
import { standsState } from '@/words'
import { AnswerLine } from '../answer/AnswerField'
import { ReadingLine } from '../reading/ReadingLine'
import { Repeats } from '../reading/Repeats'
import { TakenOut } from '../reading/TakenOut'
import { isGivenBack, type StepNow } from './useStep'

/** What this step asks for and what stands there already: repeats as tables, the rest line by line. */
export function StepLines({ at }: { at: StepNow }) {
  const { view, now, readings, active } = at
  const axes = [...new Set(readings.flatMap((r) => (r.axis == null ? [] : [r.axis])))]
  const single = readings.filter((r) => r.axis == null)
  // One at a time: what is odd about the next is told when this one is settled.
  const doubted = readings.filter((r) => isDoubted(at, r.symbol))
  const first = doubted[0]?.symbol
  const repeat = doubted.find((r) => r.axis != null && r.symbol === first)
  return (
    <>
      {axes.map((axis) => (
        <Repeats
          key={axis}
          readings={readings.filter((r) => r.axis === axis)}
          now={now}
          findings={view.findings}
          delivered={view.delivered}
          writing={active}
          closed={view.closed}
          onChoose={at.choose}
        />
      ))}
      {single.length + at.answers.length > (active === null ? 0 : 1) && (
        <div className="mb-4 flex flex-col border-b border-rule">
          {single.map((r) => (
            <Line
              key={r.symbol}
              at={at}
              spec={r}
              writing={active === r.symbol}
              later={isDoubted(at, r.symbol) && r.symbol !== first}
            />
          ))}
          {at.answers.map((a) => (
            <AnswerLine
              key={a.name}
              asked={a}
              standing={now.answers[at.slotOf(a.name)]}
              state={answerMark(view, at.slotOf(a.name))}
              writing={active === a.name}
              closed={isGivenBack(view, at.slotOf(a.name))}
              onChange={() => {
                at.choose(a.name)
              }}
            />
          ))}
        </div>
      )}
      {repeat && <Line key={repeat.symbol} at={at} spec={repeat} writing={false} later={false} />}
      {doubted.length > 1 && (
        <p className="mb-3 text-body text-slate">
          {doubted.length === 2 ? 'One more' : `${doubted.length - 1} more`} to look at after this.
        </p>
      )}
      <TakenOut view={view} readings={readings.filter((r) => !(r.symbol in now.readings))} />
    </>
  )
}

/** One reading with what is odd about it, to be looked at again or confirmed. */
function Line({
  at,
  spec,
  writing,
  later,
}: {
  at: StepNow
  spec: ReadingSpec
  writing: boolean
  later: boolean
}) {
  return (
    <ReadingLine
      spec={spec}
      standing={at.now.readings[spec.symbol]}
      findings={at.view.findings[spec.symbol] ?? []}
      writing={writing}
      closed={at.view.closed}
      later={later}
      onChange={() => {
        at.choose(spec.symbol)
      }}
      onConfirm={() => {
        at.entering.enter({ kind: 'confirmed', symbol: spec.symbol })
      }}
    />
  )
}

/** Something is odd about it, and nobody has said that it is so. */
const isDoubted = ({ view, now }: StepNow, symbol: string) =>
  (view.findings[symbol]?.length ?? 0) > 0 && now.readings[symbol]?.confirmed === false

/** How an answer is, as far as this bench has been told. */
function answerMark(view: BenchView, slot: string): StateKind {
  const said = view.feedback.given_back[slot] ?? view.feedback.at_once[slot]
  return said ? standsState(said.stands) : 'settled'
}
