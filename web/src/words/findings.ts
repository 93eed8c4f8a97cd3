import type { Finding, Flag, YieldFinding } from '@/api'
import { say, type Wording } from './wording'

type Fit = NonNullable<Extract<Finding, { kind: 'outside-range' }>['fit']>

const fits: Wording<Fit> = {
  'point-moved': (f) => `Is the point in the wrong place?${would('fit', f.reads)}`,
  'digits-swapped': (f) => `Are two digits swapped?${would('fit', f.reads)}`,
}

/** The number is for the desk; a group hears where to look. */
function would(what: 'fit' | 'agree', reads: string | null | undefined): string {
  return reads == null ? ' Look again.' : ` ${reads} would ${what}.`
}

const findings: Wording<Finding> = {
  'outside-range': (f) =>
    `Expected between ${f.low} and ${f.high}. ${f.fit ? say(fits, f.fit) : 'Look again, or confirm it.'}`,
  decimals: (f) =>
    f.typed < f.expected
      ? `The instrument shows ${f.expected} decimals; ${f.typed === 0 ? 'none' : f.typed} written. A zero at the end counts.`
      : `The instrument shows ${f.expected} decimals; ${f.typed} written.`,
  'between-halves': (f) => `Burettes are read to half a division here: ${f.low} or ${f.high}?`,
  'lighter-than-container': (f) => `${f.by} less than the ${f.container}: swapped, or another dish?`,
  'not-the-mark': (f) => `This pipette gives ${f.nominal}. Did you use a different one?`,
  'below-its-partner': (f) => `${f.by} less than the ${f.partner}: are the two swapped?`,
  'far-from-plan': (f) =>
    f.less
      ? `Only ${f.net} in it, and ${f.planned} is planned: was the vessel tared away already?`
      : `${f.net} in it, and ${f.planned} is planned: another vessel, or something with it?`,
  'swapped-against-repeat': (f) => `Far from its repeats. Are two digits swapped?${would('agree', f.reads)}`,
  'earlier-missing': (f) => `The ${f.earlier} is still empty.`,
  flagged: (f) => flagWords[f.flag].effect,
}

/** What can be the matter with something on a balance, and which way that moves the mass. */
export const flagWords: Readonly<Record<Flag, { name: string; effect: string }>> = {
  torn: { name: 'torn paper', effect: 'Torn paper: a piece is missing, the mass reads low.' },
  trimmed: { name: 'trimmed paper', effect: 'Trimmed paper: lighter than its blank, the mass reads low.' },
  scorched: { name: 'scorched', effect: 'Scorched: the paper has lost mass, the product reads low.' },
  hot: {
    name: 'still hot',
    effect: 'Weighed hot: warm air lifts the pan, the mass reads low. Cool and weigh again.',
  },
  damp: { name: 'still damp', effect: 'Still damp: the mass reads high. Dry and weigh again.' },
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
