import { useState } from 'react'
import { useSearchParams } from 'react-router'
import { answerSlot, type Asked, type BenchStep, type BenchView, type ReadingSpec } from '@/api'
import { isSpared, type BenchNow } from '../standing'
import type { Entering } from '../useBench'

/** What is being written at a step. */
export type Writing =
  { kind: 'reading'; spec: ReadingSpec } | { kind: 'answer'; spec: Asked; slot: string } | { kind: 'nothing' }

/** Everything that one step has to show, and what is being written at it. */
export interface StepNow {
  asked: BenchStep
  step: number
  view: BenchView
  now: BenchNow
  entering: Entering
  readings: readonly ReadingSpec[]
  answers: readonly Asked[]
  /** What the line is drawn through as being written: something chosen by hand, or the first that is open. */
  active: string | null
  writing: Writing
  /** Each student answers, and nobody has said who writes. */
  nobodyWrites: boolean
  slotOf: (result: string) => string
  choose: (symbol: string) => void
  leave: () => void
  /** What was written has been entered; `next` goes on at another place. */
  entered: (next?: string) => void
}

/** One step of the bench; nothing where the practical has no such step. */
export function useStep(
  view: BenchView,
  now: BenchNow,
  entering: Entering,
  step: number,
): StepNow | undefined {
  const [query, setQuery] = useSearchParams()
  const [left, setLeft] = useState(false)
  const asked = view.steps[step]
  if (!asked) return undefined
  const readings = view.readings.filter((r) => asked.records?.includes(r.symbol))
  const answers = view.asked.filter((a) => asked.answers?.includes(a.name))
  const chosen = query.get('take')
  // Where each student has a sheet, whose it is is part of the answer.
  const ofStudents = view.feedback.answers_of === 'student'
  const slotOf = (result: string) => answerSlot(result, ofStudents ? entering.writer : null)
  const nobodyWrites = ofStudents && entering.writer === null && answers.length > 0
  const active =
    chosen ?? (left ? null : (openReading(view, now, readings) ?? openAnswer(view, now, answers, slotOf)))
  const reading = view.closed ? undefined : readings.find((r) => r.symbol === active)
  const answer = nobodyWrites ? undefined : answers.find((a) => a.name === active)
  return {
    asked,
    step,
    view,
    now,
    entering,
    readings,
    answers,
    active,
    writing: reading
      ? { kind: 'reading', spec: reading }
      : answer
        ? { kind: 'answer', spec: answer, slot: slotOf(answer.name) }
        : { kind: 'nothing' },
    nobodyWrites,
    slotOf,
    choose: (symbol) => {
      setQuery({ take: symbol }, { replace: true })
    },
    leave: () => {
      setQuery({}, { replace: true })
      setLeft(chosen === null)
    },
    entered: (next) => {
      setQuery(next === undefined ? {} : { take: next }, { replace: true })
    },
  }
}

/** The first reading that is still to be taken. After class the bench is closed, and only sums are still sent. */
function openReading(view: BenchView, now: BenchNow, readings: readonly ReadingSpec[]): string | undefined {
  if (view.closed) return undefined
  return readings.find((r) => !(r.symbol in now.readings) && !isSpared(view, now, r.symbol))?.symbol
}

function openAnswer(
  view: BenchView,
  now: BenchNow,
  answers: readonly Asked[],
  slotOf: (result: string) => string,
): string | null {
  const open = answers.find((a) => !(slotOf(a.name) in now.answers) && !isGivenBack(view, slotOf(a.name)))
  return open?.name ?? null
}

/** The value was given back: nothing new is taken. */
export const isGivenBack = (view: BenchView, slot: string) => view.feedback.given_back[slot]?.expected != null

/** Of a series, or of portions, the place that is filled next: nobody taps forty rows one by one. */
export function nextOfSeries(
  readings: readonly ReadingSpec[],
  now: BenchNow,
  taken: ReadingSpec,
): string | undefined {
  if (!taken.open_ended) return undefined
  const order = readings.filter((r) => r.axis === taken.axis)
  const next = order[order.findIndex((r) => r.symbol === taken.symbol) + 1]
  return next && !(next.symbol in now.readings) ? next.symbol : undefined
}
