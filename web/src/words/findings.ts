import type { Finding, YieldFinding } from '@/api'
import { say, type Wording } from './wording'

type Fit = NonNullable<Extract<Finding, { kind: 'outside-range' }>['fit']>

const fits: Wording<Fit> = {
  'point-moved': (f) => `Is the point in the wrong place? ${f.reads} would fit.`,
  'digits-swapped': (f) => `Are two digits swapped? ${f.reads} would fit.`,
}

const findings: Wording<Finding> = {
  'outside-range': (f) =>
    `Expected between ${f.low} and ${f.high}. ${f.fit ? say(fits, f.fit) : 'Look again, or confirm it.'}`,
  decimals: (f) =>
    f.typed < f.expected
      ? `The instrument shows ${f.expected} decimals; ${f.typed === 0 ? 'none' : f.typed} written. A zero at the end counts.`
      : `The instrument shows ${f.expected} decimals; ${f.typed} written.`,
  'lighter-than-container': (f) => `${f.by} less than the ${f.container}: swapped, or another dish?`,
  'not-the-mark': (f) => `A pipette delivers its mark, ${f.nominal}. Was something else used?`,
}

const yields: Wording<YieldFinding> = {
  damp: (f) => `${f.excess} g above theory: damp? Dry and weigh again.`,
  'too-much': (f) => `${f.times} times theory: was something weighed with it?`,
  negative: () => 'Less than nothing: dish and dish with crystals swapped?',
}

/** What is odd about a reading, as a sentence for the bench. */
export const findingWords = (f: Finding) => say(findings, f)

/** What is odd about a yield. */
export const yieldWords = (f: YieldFinding) => say(yields, f)
