import { useState } from 'react'
import { useSearchParams } from 'react-router'
import { answerSlot, type BenchStep, type BenchView, type ReadingSpec } from '@/api'
import type { StateKind } from '@/ui'
import { standsState } from '@/words'
import { AdviceList } from './AdviceList'
import { AnswerBack, BenchMarks } from '../answer/AnswerBack'
import { AnswerLine, AnswerPad } from '../answer/AnswerField'
import { Belongings } from './Belongings'
import { Given } from './Given'
import { GoOn } from './GoOn'
import { ObservationField } from './ObservationField'
import { PhotoLine } from './PhotoLine'
import { ReadingLine } from '../reading/ReadingLine'
import { ReadingPad } from '../reading/ReadingPad'
import { Repeats } from '../reading/Repeats'
import { isSpared, type BenchNow } from '../standing'
import { StepClock } from './StepClock'
import { TakenOut } from '../reading/TakenOut'
import type { Entering } from '../useBench'

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
  const [query, setQuery] = useSearchParams()
  const [left, setLeft] = useState(false)
  const asked = view.steps[step]
  if (!asked) return null
  const readings = view.readings.filter((r) => asked.records?.includes(r.symbol))
  const observations = view.observations.filter((o) => asked.observes?.includes(o.symbol))
  const answers = view.asked.filter((a) => asked.answers?.includes(a.name))
  const chosen = query.get('take')
  // Where each student has a sheet, whose it is is part of the answer.
  const ofStudents = view.feedback.answers_of === 'student'
  const slotOf = (result: string) => answerSlot(result, ofStudents ? entering.writer : null)
  const nobodyWrites = ofStudents && entering.writer === null && answers.length > 0
  // After class the bench is closed, and sums are still sent from home.
  const open =
    (view.closed
      ? undefined
      : readings.find((r) => !(r.symbol in now.readings) && !isSpared(view, now, r.symbol))?.symbol) ??
    answers.find((a) => !(slotOf(a.name) in now.answers) && !given(view, slotOf(a.name)))?.name
  const active = chosen ?? (left ? null : (open ?? null))
  const reading = view.closed ? undefined : readings.find((r) => r.symbol === active)
  const answer = nobodyWrites ? undefined : answers.find((a) => a.name === active)
  const choose = (symbol: string) => {
    setQuery({ take: symbol }, { replace: true })
  }
  const leave = () => {
    setQuery({}, { replace: true })
    setLeft(chosen === null)
  }
  const axes = [...new Set(readings.flatMap((r) => (r.axis == null ? [] : [r.axis])))]
  const single = readings.filter((r) => r.axis == null)
  return (
    <>
      <StepHead asked={asked} view={view} />
      <Belongings step={asked} now={now} closed={view.closed} onEnter={entering.enter} />
      {(asked.clock != null || now.clocks.some((c) => c.step === step)) && (
        <StepClock
          of={asked}
          clock={now.clocks.find((c) => c.step === step)}
          now={time}
          closed={view.closed}
          onClock={(running, seconds) => {
            entering.enter({ kind: 'clock', step, running, ...(seconds !== undefined && { seconds }) })
          }}
        />
      )}
      {axes.map((axis) => (
        <Repeats
          key={axis}
          readings={readings.filter((r) => r.axis === axis)}
          now={now}
          findings={view.findings}
          delivered={view.delivered}
          writing={active}
          closed={view.closed}
          onChoose={choose}
        />
      ))}
      {single.length + answers.length > (active === null ? 0 : 1) && (
        <div className="mb-4 flex flex-col border-b border-rule">
          {single.map((r) => (
            <ReadingLine
              key={r.symbol}
              spec={r}
              standing={now.readings[r.symbol]}
              findings={view.findings[r.symbol] ?? []}
              writing={active === r.symbol}
              closed={view.closed}
              onChange={() => {
                choose(r.symbol)
              }}
              onConfirm={() => {
                entering.enter({ kind: 'confirmed', symbol: r.symbol })
              }}
            />
          ))}
          {answers.map((a) => (
            <AnswerLine
              key={a.name}
              asked={a}
              standing={now.answers[slotOf(a.name)]}
              state={answerMark(view, slotOf(a.name))}
              writing={active === a.name}
              closed={given(view, slotOf(a.name))}
              onChange={() => {
                choose(a.name)
              }}
            />
          ))}
        </div>
      )}
      <Doubts
        view={view}
        now={now}
        readings={readings.filter((r) => r.axis != null)}
        onChange={choose}
        onConfirm={(symbol) => {
          entering.enter({ kind: 'confirmed', symbol })
        }}
      />
      <TakenOut view={view} readings={readings.filter((r) => !(r.symbol in now.readings))} />
      <AdviceList advice={view.advice.filter((a) => a.step === step)} />
      {reading && (
        <ReadingPad
          key={reading.symbol}
          spec={reading}
          standing={now.readings[reading.symbol]}
          choices={view.instruments[reading.reading] ?? []}
          weighsAgain={asked.weighed_until_constant === reading.symbol}
          time={time}
          offered={weighedBeforehand(view, now, reading)}
          draftKey={`${view.group_id}/${reading.symbol}`}
          onLeave={leave}
          onEnter={(taken, correction) => {
            entering.enter(
              { kind: 'reading', symbol: reading.symbol, unit: reading.unit, ...taken },
              correction,
            )
            const next = nextOfSeries(readings, now, reading)
            setQuery(next === undefined ? {} : { take: next }, { replace: true })
          }}
        />
      )}
      {answers.map((a) => (
        <AnswerBack key={a.name} view={view} slot={slotOf(a.name)} asked={a} />
      ))}
      {answers.length > 0 && <BenchMarks marks={view.feedback.bench_marks} />}
      {nobodyWrites && (
        <p className="my-3 border-l-4 border-amber pl-3">
          Here each student answers. Say at the top who is writing.
        </p>
      )}
      {answer && view.feedback.attempts != null && (
        <p className="text-body text-slate">{attemptsWords(view, now.answers[slotOf(answer.name)])}</p>
      )}
      {answer && (
        <AnswerPad
          key={slotOf(answer.name)}
          asked={answer}
          standing={now.answers[slotOf(answer.name)]}
          draftKey={`${view.group_id}/${slotOf(answer.name)}`}
          onLeave={leave}
          onEnter={(text, unit) => {
            entering.enter({
              kind: 'answer',
              result: answer.name,
              text,
              unit,
              ...(ofStudents && { by: entering.writer }),
            })
            setQuery({}, { replace: true })
          }}
        />
      )}
      {observations.map((o) => (
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
      ))}
      {active === null && <PhotoLine view={view} step={step} />}
      {active === null && <GoOn view={view} now={now} entering={entering} step={step} />}
      {active !== null && readings.some((r) => r.symbol === active && r.axis != null) && (
        <button
          type="button"
          className="min-h-12 self-start text-body underline underline-offset-4"
          onClick={leave}
        >
          No further one
        </button>
      )}
    </>
  )
}

/** The value was given back: nothing new is taken. */
const given = (view: BenchView, slot: string) => view.feedback.given_back[slot]?.expected != null

/** How an answer is, as far as this bench has been told. */
function answerMark(view: BenchView, slot: string): StateKind {
  const said = view.feedback.given_back[slot] ?? view.feedback.at_once[slot]
  return said ? standsState(said.stands) : 'settled'
}

/** How often an answer may still be given. */
function attemptsWords(view: BenchView, standing: BenchNow['answers'][string] | undefined): string {
  const given = standing ? standing.struck.length + 1 : 0
  const left = (view.feedback.attempts ?? 0) - given
  if (left <= 0) return 'No further attempt: the last answer stands.'
  return left === 1 ? 'One attempt.' : `${left} attempts.`
}

/** Of a series, or of portions, the place that is filled next: nobody taps forty rows one by one. */
function nextOfSeries(
  readings: readonly ReadingSpec[],
  now: BenchNow,
  taken: ReadingSpec,
): string | undefined {
  if (!taken.open_ended) return undefined
  const order = readings.filter((r) => r.axis === taken.axis)
  const next = order[order.findIndex((r) => r.symbol === taken.symbol) + 1]
  return next && !(next.symbol in now.readings) ? next.symbol : undefined
}

/** What the group's own vessel weighed, where the room knows it by its tag. */
function weighedBeforehand(view: BenchView, now: BenchNow, reading: ReadingSpec): string | undefined {
  const vessel = view.steps.flatMap((s) => s.vessels).find((v) => v.weighed_as === reading.reading)
  return vessel && vessel.masses[now.tags[vessel.vessel]?.text ?? '']
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
      {asked.wait && <p className="mb-4 text-slate">Then it waits: {asked.wait}. Nobody need stand by.</p>}
    </div>
  )
}

/** What is odd about repeats, beneath their table: one line each, to be looked at again or confirmed. */
function Doubts({
  view,
  now,
  readings,
  onChange,
  onConfirm,
}: {
  view: BenchView
  now: BenchNow
  readings: readonly ReadingSpec[]
  onChange: (symbol: string) => void
  onConfirm: (symbol: string) => void
}) {
  const doubtful = readings.filter(
    (r) => (view.findings[r.symbol]?.length ?? 0) > 0 && now.readings[r.symbol]?.confirmed === false,
  )
  return doubtful.map((r) => (
    <ReadingLine
      key={r.symbol}
      spec={r}
      standing={now.readings[r.symbol]}
      findings={view.findings[r.symbol] ?? []}
      writing={false}
      closed={view.closed}
      onChange={() => {
        onChange(r.symbol)
      }}
      onConfirm={() => {
        onConfirm(r.symbol)
      }}
    />
  ))
}
