import type { BenchStep, BenchView } from '@/api'
import { AnswerBack, BenchMarks } from '../answer/AnswerBack'
import { isLeftOut, type BenchNow } from '../standing'
import type { Entering } from '../useBench'
import { AdviceList } from './AdviceList'
import { Belongings } from './Belongings'
import { Given } from './Given'
import { GoOn } from './GoOn'
import { ObservationField } from './ObservationField'
import { PhotoLine } from './PhotoLine'
import { StepClock } from './StepClock'
import { StepLines } from './StepLines'
import { StepPad } from './StepPad'
import { TurnLine } from './TurnLine'
import { useStep, type StepNow } from './useStep'

/** One step: the caution first, what to do in one sentence, then what is recorded here. */
export function StepPage({
  view,
  now,
  entering,
  step,
  time,
}: {
  view: BenchView
  now: BenchNow
  entering: Entering
  step: number
  /** The server's time, ms. */
  time: number
}) {
  const at = useStep(view, now, entering, step)
  if (!at) return null
  return (
    <>
      <StepHead asked={at.asked} view={view} />
      <TurnLine view={view} step={step} />
      <OnlyWhen at={at} />
      <Belongings step={at.asked} now={now} closed={view.closed} onEnter={entering.enter} />
      <Clock at={at} time={time} />
      <StepLines at={at} />
      <AdviceList advice={view.advice.filter((a) => a.step === step)} />
      <AnswersBack at={at} />
      <StepPad at={at} time={time} />
      <Observations at={at} />
      {at.active === null && <PhotoLine view={view} step={step} />}
      {at.active === null && <GoOn view={view} now={now} entering={entering} step={step} />}
      <NoFurther at={at} />
    </>
  )
}

/** Cautions first, then what to do; what must come before what, with its reason. */
function StepHead({ asked, view }: { asked: BenchStep; view: BenchView }) {
  return (
    <div className="pt-4">
      {asked.cautions?.map((caution) => (
        <p key={caution} className="mb-2 border-l-4 border-amber py-0.5 pl-3 text-amber-text">
          {caution}
        </p>
      ))}
      <h1 className="mt-3 text-title">{asked.title}</h1>
      <Given view={view} />
      <p className="mt-2 mb-4">{asked.text}</p>
      {asked.guards.map((g) => (
        <p key={g.text} className="mb-3 text-body">
          <b className="font-semibold">{g.text}</b> <span className="text-slate">{g.why}</span>
        </p>
      ))}
      {asked.wait && <p className="mb-4 text-slate">Then leave it for {asked.wait}. You can go.</p>}
    </div>
  )
}

/** What a step is for, where it is not for every group; and that it is left out where something else was seen. */
function OnlyWhen({ at }: { at: StepNow }) {
  const { asked, view, now } = at
  const when = Object.entries(asked.when ?? {})
  if (when.length === 0) return null
  const question = (symbol: string) => view.observations.find((o) => o.symbol === symbol)?.question ?? symbol
  const left = isLeftOut(asked, now)
  return (
    <ul className={`mb-4 border-l-4 pl-3 text-body ${left ? 'border-amber text-amber-text' : 'border-rule'}`}>
      {when.map(([symbol, choice]) => {
        const seen = now.observations[symbol]
        return (
          <li key={symbol}>
            {seen !== undefined && seen.text !== choice
              ? `Skip this step: you saw “${seen.text}”.`
              : `Only if “${question(symbol)}” was “${choice}”.`}
          </li>
        )
      })}
    </ul>
  )
}

/** The clock of the step, where it has one or somebody started one. */
function Clock({ at, time }: { at: StepNow; time: number }) {
  const clock = at.now.clocks.find((c) => c.step === at.step)
  if (at.asked.clock == null && !clock) return null
  return (
    <StepClock
      of={at.asked}
      clock={clock}
      now={time}
      closed={at.view.closed}
      onClock={(running, seconds) => {
        at.entering.enter({
          kind: 'clock',
          step: at.step,
          running,
          ...(seconds !== undefined && { seconds }),
        })
      }}
    />
  )
}

/** What was said of the answers of this step. */
function AnswersBack({ at }: { at: StepNow }) {
  return (
    <>
      {at.answers.map((a) => (
        <AnswerBack key={a.name} view={at.view} slot={at.slotOf(a.name)} asked={a} />
      ))}
      {at.answers.length > 0 && <BenchMarks marks={at.view.feedback.bench_marks} />}
      {at.nobodyWrites && (
        <p className="my-3 border-l-4 border-amber pl-3">
          Here each student answers. Say at the top who is writing.
        </p>
      )}
    </>
  )
}

function Observations({ at }: { at: StepNow }) {
  const { view, now, entering } = at
  const observations = view.observations.filter((o) => at.asked.observes?.includes(o.symbol))
  return observations.map((o) => (
    <ObservationField
      key={o.symbol}
      asked={o}
      standing={now.observations[o.symbol]}
      closed={view.closed}
      draftKey={`${view.group_id}/${o.symbol}`}
      onSeen={(choice) => {
        entering.enter({ kind: 'observation', symbol: o.symbol, choice })
      }}
    />
  ))
}

/** Out of a series of repeats: enough of them are taken. */
function NoFurther({ at }: { at: StepNow }) {
  const repeats = at.readings.some((r) => r.symbol === at.active && r.axis != null)
  if (!repeats) return null
  return (
    <button
      type="button"
      className="min-h-12 self-start text-body underline underline-offset-4"
      onClick={at.leave}
    >
      No more trials
    </button>
  )
}
