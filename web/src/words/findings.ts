import type { Doneness, Finding, YieldFinding } from '@/api'
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

const and = (numbers: readonly number[]) =>
  numbers.length < 2 ? numbers.join('') : `${numbers.slice(0, -1).join(', ')} and ${numbers.at(-1) ?? ''}`

const doneness: Wording<Doneness> = {
  'titres-agree': (d) => `Titres ${and(d.trials)} agree within ${d.range}; no further one is needed.`,
  'one-more': (d) =>
    d.closest == null
      ? `One more: two must agree within ${d.limit}.`
      : `One more: the nearest two are ${d.closest} apart, and ${d.limit} is the limit.`,
  'constant-mass': (d) => `Dry: the last two weighings agree within ${d.difference}.`,
  'once-again': (d) =>
    d.difference == null
      ? `Provisional: weigh again; two must agree within ${d.within}.`
      : `Not dry yet: ${d.difference} apart, and ${d.within} is the limit. Once again.`,
}

/** Whether repeats agree, and what to do. */
export const donenessWords = (d: Doneness) => say(doneness, d)

/** Whether no further repeat is needed. */
export const isSettled = (d: Doneness) => d.kind === 'titres-agree' || d.kind === 'constant-mass'

/** What is odd about a reading, as a sentence for the bench. */
export const findingWords = (f: Finding) => say(findings, f)

/** What is odd about a yield. */
export const yieldWords = (f: YieldFinding) => say(yields, f)
