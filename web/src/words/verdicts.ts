import type { DigitsVerdict, Stands, UnitVerdict, ValueVerdict, Verdict } from '@/api'
import type { StateKind } from '@/ui'
import { slipName } from './slips'
import { say, type Wording } from './wording'

const values: Wording<ValueVerdict> = {
  'not-yet': () => 'readings missing',
  'no-value': (v) => v.reason,
  right: () => 'right',
  'carried-forward': () => 'right, using their earlier answer',
  'too-few-digits': () => 'too few digits to judge',
  'not-reduced': (v) => `not reduced: ${v.by} times too large`,
  'to-read': () => 'to be read',
  wrong: () => 'wrong',
}

const units: Wording<UnitVerdict> = {
  right: () => 'right',
  missing: () => 'missing',
  unknown: (v) => `not known: ${v.typed}`,
  wrong: (v) =>
    v.fits === '1' ? 'wrong: the number is a plain fraction' : `wrong: the number is in ${v.fits}`,
}

const digits: Wording<DigitsVerdict> = {
  right: () => 'right',
  'too-many': (v) => `too many: ${v.typed} where the readings give ${v.wanted}`,
  'too-few': (v) => `too few: ${v.typed} where the readings give ${v.wanted}`,
  'by-another-school': (v) =>
    v.rule === 'fives'
      ? `right; your school would round it to ${v.here}`
      : `right by another rule; your school writes ${v.here}`,
  ambiguous: (v) => `not marked: the zeros may or may not count (${v.least} to ${v.most} figures)`,
  'not-judged': () => 'not judged',
}

export const valueWords = (v: ValueVerdict) => say(values, v)
export const unitWords = (v: UnitVerdict) => say(units, v)
export const digitsWords = (v: DigitsVerdict) => say(digits, v)

const valueStates: { [K in ValueVerdict['kind']]: StateKind } = {
  'not-yet': 'waiting',
  'no-value': 'doubtful',
  right: 'settled',
  'carried-forward': 'settled',
  'too-few-digits': 'doubtful',
  'not-reduced': 'wrong',
  'to-read': 'waiting',
  wrong: 'wrong',
}

const unitStates: { [K in UnitVerdict['kind']]: StateKind } = {
  right: 'settled',
  missing: 'doubtful',
  unknown: 'doubtful',
  wrong: 'wrong',
}

const digitsStates: { [K in DigitsVerdict['kind']]: StateKind } = {
  right: 'settled',
  'too-many': 'doubtful',
  'too-few': 'doubtful',
  'by-another-school': 'settled',
  ambiguous: 'waiting',
  'not-judged': 'waiting',
}

export const valueState = (v: ValueVerdict) => valueStates[v.kind]
export const unitState = (v: UnitVerdict) => unitStates[v.kind]
export const digitsState = (v: DigitsVerdict) => digitsStates[v.kind]

const stands: Record<Stands, StateKind> = {
  right: 'settled',
  'carried-forward': 'settled',
  written: 'doubtful',
  wrong: 'wrong',
  open: 'doubtful',
}

/** What holds for an answer, as one state. */
export const standsState = (of: Stands) => stands[of]

const standsIn: Record<Stands, string> = {
  right: 'right',
  'carried-forward': 'right, using the earlier answer',
  written: 'right, but written wrongly',
  wrong: 'wrong',
  open: 'not judged',
}
export const standsWords = (of: Stands) => standsIn[of]

/** The state of an answer as a whole. */
export function answerState(v: Verdict): StateKind {
  if (v.stands === 'open') return valueState(v.value)
  return v.absurd && stands[v.stands] === 'settled' ? 'doubtful' : stands[v.stands]
}

/** An answer in a few words, what weighs most first. */
export function answerWords(v: Verdict): string {
  const named = v.diagnosis.named[0]
  if (v.value.kind === 'wrong') return named ? slipName(named.slip) : 'wrong, cause unclear'
  if (v.value.kind !== 'right' && v.value.kind !== 'carried-forward') return valueWords(v.value)
  if (v.absurd) return 'carried forward, but impossible'
  if (v.unit.kind !== 'right') return v.unit.kind === 'missing' ? 'unit missing' : `unit ${unitWords(v.unit)}`
  if (v.digits.kind === 'too-many') return 'too many digits'
  if (v.digits.kind === 'too-few') return 'too few digits'
  return valueWords(v.value)
}
