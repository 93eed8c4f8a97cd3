import {
  answerSlot,
  type BenchStep,
  type BenchView,
  type Deviation,
  type Entered,
  type EntryBody,
  type Flag,
} from '@/api'
import type { OnItsWay } from './outbox/outbox'

/** What stands in one place of the bench, with what this device still holds put in. */
export interface Filled {
  id: string
  text: string
  unit: string
  /** Server's time, ms. */
  at: number
  about: boolean
  struck: readonly { text: string; reason?: string | null | undefined }[]
  /** Named instrument of the room. */
  on?: string | null | undefined
  /** The instrument sent it: nobody typed it. */
  sent?: boolean
  /** What the display showed before. */
  steps: readonly string[]
  flags: readonly Flag[]
  confirmed: boolean
  /** An instructor entered it. */
  by_instructor: boolean
  /** Whose it is, where it is not the group's own. */
  borrowed?: string | null | undefined
  /** Still on this device; judged when it has arrived. */
  held: boolean
}

/** The clock of a step. */
export interface Running {
  step: number
  since: number
  seconds?: number | null | undefined
  stopped?: number | null | undefined
}

export interface BenchNow {
  readings: Readonly<Record<string, Filled>>
  observations: Readonly<Record<string, Filled>>
  answers: Readonly<Record<string, Filled>>
  tags: Readonly<Record<string, Filled>>
  bottles: Readonly<Record<string, Filled>>
  done: ReadonlySet<number>
  clocks: readonly Running[]
  deviations: readonly Deviation[]
  help: string | null
  /** Messages that were read. */
  heard: ReadonlySet<string>
}

/** What fills a place with a text of its own. */
type Filling = Extract<EntryBody, { kind: 'reading' | 'observation' | 'answer' | 'tag' | 'bottle' }>

/** The bench as the server knows it, with the entries on their way over it. */
export function benchNow(view: BenchView, onTheirWay: readonly OnItsWay[]): BenchNow {
  const places = {
    reading: standing(view.entered),
    observation: standing(view.observed),
    answer: standing(view.answered),
    tag: standing(view.tags),
    bottle: standing(view.bottles),
  }
  const done = new Set(view.steps_done)
  const clocks = new Map<number, Running>(view.clocks.map((c) => [c.step, c]))
  let deviations: readonly Deviation[] = view.deviations
  let help = view.help ?? null
  const heard = new Set<string>()
  for (const one of onTheirWay) {
    if (one.refused !== undefined || (one.seq !== undefined && one.seq <= view.seq)) continue
    // What was made at another bench stands there, not here.
    if (one.entry.group !== view.group_id) continue
    const body = one.entry.entry
    const at = one.entry.taken_at
    switch (body.kind) {
      case 'step':
        if (body.done) done.add(body.step)
        else done.delete(body.step)
        break
      case 'clock': {
        const before = clocks.get(body.step)
        if (body.running) clocks.set(body.step, { step: body.step, since: at, seconds: body.seconds })
        else if (before) clocks.set(body.step, { ...before, stopped: at })
        break
      }
      case 'deviation':
        deviations = deviations.filter((d) => d.nr !== body.nr)
        if (body.withdrawn !== true) deviations = [...deviations, body]
        break
      case 'help':
        help = body.wanted ? (body.about ?? '') : null
        break
      case 'confirmed': {
        const before = places.reading[body.symbol]
        if (before) places.reading[body.symbol] = { ...before, confirmed: true }
        break
      }
      case 'heard':
        heard.add(body.message)
        break
      case 'begun':
      case 'photo':
      case 'struck':
        break
      case 'reading':
      case 'observation':
      case 'answer':
      case 'tag':
      case 'bottle':
        fill(places[body.kind], body, one)
    }
  }
  return {
    readings: places.reading,
    observations: places.observation,
    answers: places.answer,
    tags: places.tag,
    bottles: places.bottle,
    done,
    clocks: [...clocks.values()],
    deviations,
    help,
    heard,
  }
}

function fill(place: Record<string, Filled>, body: Filling, one: OnItsWay): void {
  const [key, text, unit] = filling(body)
  const before = place[key]
  const struck = before ? [...before.struck, { text: before.text, reason: one.entry.reason }] : []
  const taken = body.kind === 'reading' ? body : undefined
  place[key] = {
    id: one.entry.id,
    text,
    unit,
    at: one.entry.taken_at,
    about: false,
    struck,
    on: taken?.on,
    sent: taken?.sent ?? false,
    steps: taken?.steps ?? [],
    flags: taken?.flags ?? [],
    confirmed: false,
    by_instructor: false,
    held: one.seq === undefined,
  }
}

function standing(entered: Readonly<Record<string, Entered>>): Record<string, Filled> {
  return Object.fromEntries(Object.entries(entered).map(([key, e]) => [key, { ...e, held: false }]))
}

/** The place that an entry fills, its text and its unit. */
function filling(body: Filling): [place: string, text: string, unit: string] {
  switch (body.kind) {
    case 'reading':
      return [body.symbol, body.text, body.unit]
    case 'answer':
      return [answerSlot(body.result, body.by), body.text, body.unit]
    case 'observation':
      return [body.symbol, body.choice, '']
    case 'tag':
      return [body.vessel, body.tag, '']
    case 'bottle':
      return [body.material, body.name, '']
  }
}

/** Whether everything that a step asks for stands. */
export function isComplete(view: BenchView, now: BenchNow, step: number): boolean {
  const asked = view.steps[step]
  if (!asked) return false
  return (
    (asked.records ?? []).every((r) => r in now.readings || isSpared(view, now, r)) &&
    (asked.observes ?? []).every((o) => o in now.observations) &&
    (asked.answers ?? []).every((a) => a in now.answers)
  )
}

/** Whether a repeat need not be taken: the server says so, or it is one more of a series that is begun on this device. */
export function isSpared(view: BenchView, now: BenchNow, symbol: string): boolean {
  if (view.spared.includes(symbol)) return true
  const spec = view.readings.find((r) => r.symbol === symbol)
  return (
    spec?.open_ended === true && `${spec.reading}[1]` in now.readings && spec.symbol !== `${spec.reading}[1]`
  )
}

/** The step to go on with: the first that is not done, or the last one. */
export function nextStep(view: BenchView, now: BenchNow): number {
  const open = view.steps.findIndex((s, i) => !now.done.has(i) && !isLeftOut(s, now))
  return open < 0 ? view.steps.length - 1 : open
}

/** Whether a step is left out: something else was seen than it is for. */
export function isLeftOut(step: BenchStep, now: Pick<BenchNow, 'observations'>): boolean {
  return Object.entries(step.when ?? {}).some(([symbol, choice]) => {
    const seen = now.observations[symbol]
    return seen !== undefined && seen.text !== choice
  })
}
