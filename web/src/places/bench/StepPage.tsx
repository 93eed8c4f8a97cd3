import { useState } from 'react'
import { useNavigate } from 'react-router'
import type { BenchView } from '@/api'
import { StateMark } from '@/ui'
import { donenessWords, isSettled } from '@/words'
import { AnswerLine, AnswerPad } from './AnswerField'
import { ObservationField } from './ObservationField'
import { ReadingLine, ReadingPad } from './ReadingField'
import { isComplete, isSpared, type BenchNow } from './standing'
import type { Entering } from './useBench'

/** One step: the caution first, what to do in one sentence, then what is recorded here. */
export function StepPage({
  view,
  now,
  entering,
  step,
}: {
  view: BenchView
  now: BenchNow
  entering: Entering
  step: number
}) {
  const [chosen, setChosen] = useState<string | null>(null)
  const asked = view.steps[step]
  if (!asked) return null
  const readings = view.readings.filter((r) => asked.records?.includes(r.symbol))
  const observations = view.observations.filter((o) => asked.observes?.includes(o.symbol))
  const answers = view.asked.filter((a) => asked.answers?.includes(a.name))
  const open =
    readings.find((r) => !(r.symbol in now.readings) && !isSpared(view, step, r.symbol))?.symbol ??
    answers.find((a) => !(a.name in now.answers))?.name
  const active = view.closed ? null : (chosen ?? open ?? null)
  const reading = readings.find((r) => r.symbol === active)
  const answer = answers.find((a) => a.name === active)
  const leave = () => {
    setChosen(null)
  }
  return (
    <>
      <div className="pt-4">
        {asked.cautions?.map((caution) => (
          <p key={caution} className="mb-2 border-l-4 border-amber py-0.5 pl-3 text-amber-text">
            {caution}
          </p>
        ))}
        <h1 className="mt-3 text-title">{asked.title}</h1>
        <p className="mt-2 mb-5">{asked.text}</p>
        {asked.wait && <p className="mb-5 text-slate">Then it waits: {asked.wait}. Nobody need stand by.</p>}
      </div>
      {observations.map((o) => (
        <ObservationField
          key={o.symbol}
          asked={o}
          standing={now.observations[o.symbol]}
          closed={view.closed}
          onChoose={(choice) => {
            entering.enter({ kind: 'observation', symbol: o.symbol, choice })
          }}
        />
      ))}
      {(active === null || readings.length + answers.length > 1) && (
        <div className="mb-4 flex flex-col border-b border-rule">
          {readings.map((r) => (
            <ReadingLine
              key={r.symbol}
              spec={r}
              standing={now.readings[r.symbol]}
              findings={view.findings[r.symbol] ?? []}
              writing={active === r.symbol}
              closed={view.closed}
              onChange={() => {
                setChosen(r.symbol)
              }}
            />
          ))}
          {answers.map((a) => (
            <AnswerLine
              key={a.name}
              asked={a}
              standing={now.answers[a.name]}
              writing={active === a.name}
              closed={view.closed}
              onChange={() => {
                setChosen(a.name)
              }}
            />
          ))}
        </div>
      )}
      <Doneness view={view} step={step} />
      {reading && (
        <ReadingPad
          key={reading.symbol}
          spec={reading}
          standing={now.readings[reading.symbol]}
          draftKey={`${view.group_id}/${reading.symbol}`}
          onLeave={leave}
          onEnter={(text, correction) => {
            entering.enter({ kind: 'reading', symbol: reading.symbol, text, unit: reading.unit }, correction)
            leave()
          }}
        />
      )}
      {answer && (
        <AnswerPad
          key={answer.name}
          asked={answer}
          standing={now.answers[answer.name]}
          draftKey={`${view.group_id}/${answer.name}`}
          onLeave={leave}
          onEnter={(text, unit) => {
            entering.enter({ kind: 'answer', result: answer.name, text, unit })
            leave()
          }}
        />
      )}
      {active === null && <GoOn view={view} now={now} entering={entering} step={step} />}
    </>
  )
}

/** Whether the repeats of this step agree: what to do comes first. */
function Doneness({ view, step }: { view: BenchView; step: number }) {
  return view.doneness
    .filter((d) => d.step === step)
    .map((d) => (
      <p
        key={d.kind}
        role="status"
        className={`mb-4 flex gap-3 border-l-4 py-1 pl-3 font-semibold ${isSettled(d) ? 'border-teal text-teal' : 'border-slate'}`}
      >
        <span className="shrink-0">
          <StateMark kind={isSettled(d) ? 'settled' : 'waiting'} />
        </span>
        {donenessWords(d)}
      </p>
    ))
}

/** On to the next step. One that is complete is marked as done; one that is not can be left and come back to. */
function GoOn({
  view,
  now,
  entering,
  step,
}: {
  view: BenchView
  now: BenchNow
  entering: Entering
  step: number
}) {
  const navigate = useNavigate()
  const complete = isComplete(view, now, step)
  const last = step === view.steps.length - 1
  return (
    <div className="mt-auto pt-6 pb-4">
      <button
        type="button"
        autoFocus={complete}
        className={`min-h-16 w-full px-4 text-left text-lead font-semibold ${
          complete ? 'bg-ink text-paper' : 'border-2 border-rule text-slate'
        }`}
        onClick={() => {
          if (complete && !view.closed && !now.done.has(step))
            entering.enter({ kind: 'step', step, done: true })
          void navigate(last ? '/bench/sheet' : `/bench/${step + 2}`)
        }}
      >
        {complete ? (last ? 'Done: look at everything' : 'Next step') : 'Leave this for later'}
      </button>
    </div>
  )
}
