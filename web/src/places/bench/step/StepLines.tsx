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
  const doubtful = readings.filter((r) => r.axis != null && isDoubted(at, r.symbol))
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
            <Line key={r.symbol} at={at} spec={r} writing={active === r.symbol} />
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
      {doubtful.map((r) => (
        <Line key={r.symbol} at={at} spec={r} writing={false} />
      ))}
      <TakenOut view={view} readings={readings.filter((r) => !(r.symbol in now.readings))} />
    </>
  )
}

/** One reading with what is odd about it, to be looked at again or confirmed. */
function Line({ at, spec, writing }: { at: StepNow; spec: ReadingSpec; writing: boolean }) {
  return (
    <ReadingLine
      spec={spec}
      standing={at.now.readings[spec.symbol]}
      findings={at.view.findings[spec.symbol] ?? []}
      writing={writing}
      closed={at.view.closed}
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
