import type { Flag } from '@/api'
import type { Filled } from '../standing'
import type { Correction } from '../useBench'

/** Within this time of an entry, its correction is a slip of the finger: nobody asks why. The server holds the same. */
const AT_ONCE_MS = 60_000

/** The reason by which a weighing until constant goes on: the value before stays beside the new one. */
const MEASURED_AGAIN = 'measured again'

/** A reading as it is entered here. */
export interface TakenHere {
  text: string
  on?: string
  steps?: string[]
  flags?: Flag[]
  sent?: boolean
}

/** What is typed where something stands already, or nothing yet. */
export interface Replacing {
  standing: Filled | undefined
  /** The step weighs until it is constant: what stands is the last weighing but one. */
  weighsAgain: boolean
  /** The server's time, ms. */
  time: number
  reason: string
}

const followsAtOnce = ({ standing, time }: Replacing) =>
  standing !== undefined && time - standing.at < AT_ONCE_MS

/** Whether the pad asks for a reason at all. */
export const asksWhy = (of: Replacing) => of.standing !== undefined && (of.weighsAgain || !followsAtOnce(of))

/** Whether it can be kept as it is: the first value, one that follows at once, or one that says why. */
export const mayReplace = (of: Replacing) =>
  of.standing === undefined || followsAtOnce(of) || of.reason.trim() !== ''

/** What the display showed before: a second weighing leaves the first one standing, a slip of writing takes its place. */
export function stepsBefore(of: Replacing, steps: readonly string[]): string[] {
  const again = of.weighsAgain && of.reason === MEASURED_AGAIN
  return again && of.standing ? [...of.standing.steps, of.standing.text] : [...steps]
}

/** A reading with only what was said of it. */
export function takenHere(
  text: string,
  on: string | null,
  steps: string[],
  flags: readonly Flag[],
  sent = false,
): TakenHere {
  return {
    text: text.trim(),
    ...(on !== null && { on }),
    ...(steps.length > 0 && { steps }),
    ...(flags.length > 0 && { flags: [...flags] }),
    ...(sent && { sent }),
  }
}

/** What it corrects and why; nothing where nothing stands. */
export function correctionOf({ standing, reason }: Replacing): Correction | undefined {
  const because = reason.trim()
  return standing && { supersedes: standing.id, ...(because !== '' && { reason: because }) }
}
