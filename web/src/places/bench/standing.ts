import type { BenchView, Entered, EntryBody } from '@/api'
import { isSettled } from '@/words'
import type { OnItsWay } from './outbox'

/** What stands in one place of the bench, with what this device still holds put in. */
export interface Standing {
  id: string
  text: string
  unit: string
  /** Server's time, ms. */
  at: number
  about: boolean
  struck: readonly { text: string; reason?: string | null | undefined }[]
  /** Still on this device; judged when it has arrived. */
  held: boolean
}

export interface BenchNow {
  readings: Readonly<Record<string, Standing>>
  observations: Readonly<Record<string, Standing>>
  answers: Readonly<Record<string, Standing>>
  done: ReadonlySet<number>
}

/** The bench as the server knows it, with the entries on their way over it. */
export function benchNow(view: BenchView, onTheirWay: readonly OnItsWay[]): BenchNow {
  const readings = standing(view.entered)
  const observations = standing(view.observed)
  const answers = standing(view.answered)
  const done = new Set(view.steps_done)
  for (const one of onTheirWay) {
    if (one.refused !== undefined || (one.seq !== undefined && one.seq <= view.seq)) continue
    const body = one.entry.entry
    if (body.kind === 'step') {
      if (body.done) done.add(body.step)
      else done.delete(body.step)
      continue
    }
    const place = { reading: readings, observation: observations, answer: answers }[body.kind]
    const key = slotOf(body)
    const before = place[key]
    const struck = before ? [...before.struck, { text: before.text, reason: one.entry.reason }] : []
    place[key] = {
      id: one.entry.id,
      text: body.kind === 'observation' ? body.choice : body.text,
      unit: body.kind === 'observation' ? '' : body.unit,
      at: one.entry.taken_at,
      about: false,
      struck,
      held: one.seq === undefined,
    }
  }
  return { readings, observations, answers, done }
}

function standing(entered: Readonly<Record<string, Entered>>): Record<string, Standing> {
  return Object.fromEntries(Object.entries(entered).map(([key, e]) => [key, { ...e, held: false }]))
}

function slotOf(body: Exclude<EntryBody, { kind: 'step' }>): string {
  return body.kind === 'answer' ? body.result : body.symbol
}

/** Whether everything that a step asks for stands. */
export function isComplete(view: BenchView, now: BenchNow, step: number): boolean {
  const asked = view.steps[step]
  if (!asked) return false
  return (
    (asked.records ?? []).every((r) => r in now.readings || isSpared(view, step, r)) &&
    (asked.observes ?? []).every((o) => o in now.observations) &&
    (asked.answers ?? []).every((a) => a in now.answers)
  )
}

/** Whether a repeat need not be taken any more: those that are there agree. */
export function isSpared(view: BenchView, step: number, symbol: string): boolean {
  return symbol.endsWith(']') && view.doneness.some((d) => d.step === step && isSettled(d))
}

/** The step to go on with: the first that is not done, or the last one. */
export function nextStep(view: BenchView, now: BenchNow): number {
  const open = view.steps.findIndex((_, i) => !now.done.has(i))
  return open < 0 ? view.steps.length - 1 : open
}
