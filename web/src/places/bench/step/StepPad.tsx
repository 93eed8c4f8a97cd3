import type { Asked, BenchView, ReadingSpec } from '@/api'
import { AnswerPad } from '../answer/AnswerField'
import { ReadingPad } from '../reading/ReadingPad'
import type { BenchNow } from '../standing'
import { nextOfSeries, type StepNow } from './useStep'

/** Where the reading or the answer is typed that is open at this step. */
export function StepPad({ at, time }: { at: StepNow; time: number }) {
  switch (at.writing.kind) {
    case 'reading':
      return <Reading at={at} spec={at.writing.spec} time={time} />
    case 'answer':
      return <Answer at={at} asked={at.writing.spec} slot={at.writing.slot} />
    case 'nothing':
      return null
  }
}

function Reading({ at, spec, time }: { at: StepNow; spec: ReadingSpec; time: number }) {
  const { view, now } = at
  // One more weighing is always possible: in the last place it stands beside the one before.
  const lastWeighing = at.readings.filter((r) => r.reading === at.asked.weighed_until_constant).at(-1)
  return (
    <ReadingPad
      key={spec.symbol}
      spec={spec}
      standing={now.readings[spec.symbol]}
      choices={view.instruments[spec.reading] ?? []}
      speaking={view.speaking}
      weighsAgain={lastWeighing?.symbol === spec.symbol}
      time={time}
      offered={weighedBeforehand(view, now, spec)}
      draftKey={`${view.group_id}/${spec.symbol}`}
      onLeave={at.leave}
      onEnter={(taken, correction) => {
        at.entering.enter({ kind: 'reading', symbol: spec.symbol, unit: spec.unit, ...taken }, correction)
        at.entered(nextOfSeries(at.readings, now, spec))
      }}
    />
  )
}

function Answer({ at, asked, slot }: { at: StepNow; asked: Asked; slot: string }) {
  const { view, now, entering } = at
  return (
    <>
      {view.feedback.attempts != null && (
        <p className="text-body text-slate">{attemptsWords(view.feedback.attempts, now.answers[slot])}</p>
      )}
      <AnswerPad
        key={slot}
        asked={asked}
        standing={now.answers[slot]}
        draftKey={`${view.group_id}/${slot}`}
        onLeave={at.leave}
        onEnter={(text, unit) => {
          const by = view.feedback.answers_of === 'student' && { by: entering.writer }
          entering.enter({ kind: 'answer', result: asked.name, text, unit, ...by })
          at.entered()
        }}
      />
    </>
  )
}

/** How often an answer may still be given. */
function attemptsWords(attempts: number, standing: BenchNow['answers'][string] | undefined): string {
  const left = attempts - (standing ? standing.struck.length + 1 : 0)
  if (left <= 0) return 'No tries left: your last answer counts.'
  return left === 1 ? '1 try left.' : `${left} tries left.`
}

/** What the group's own vessel weighed, where the room knows it by its tag. */
function weighedBeforehand(view: BenchView, now: BenchNow, reading: ReadingSpec): string | undefined {
  const vessel = view.steps.flatMap((s) => s.vessels).find((v) => v.weighed_as === reading.reading)
  return vessel && vessel.masses[now.tags[vessel.vessel]?.text ?? '']
}
