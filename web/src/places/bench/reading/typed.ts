import type { Finding, ReadingSpec } from '@/api'
import { MOST_CHARACTERS, written } from '@/ui'

/** What can be said of typed digits on the device alone. Everything else is judged by the server. */
export type Typed =
  | { kind: 'empty' }
  | { kind: 'no-number' }
  /** It may be either. */
  | { kind: 'asked'; thousands: string; decimal: string }
  /** `number` is what was typed, without a unit beside it. */
  | { kind: 'number'; value: number; number: string; findings: readonly Finding[] }

/** Whether typed digits are a number, lie in the expected range, and have the decimals of the instrument. */
export function looked(text: string, spec: ReadingSpec): Typed {
  if (text.trim() === '') return { kind: 'empty' }
  const got = written(text, spec.decimals)
  if (got.kind === 'asked') return got
  if (got.kind === 'none' || !['', spec.unit].includes(got.unit)) return { kind: 'no-number' }
  const { value, number } = got
  const [low, high] = spec.range
  const findings: Finding[] = []
  if (low !== undefined && high !== undefined && (value < low || value > high)) {
    findings.push({ kind: 'outside-range', low, high })
  }
  const typed = decimalsTyped(number)
  if (typed !== spec.decimals) findings.push({ kind: 'decimals', expected: spec.decimals, typed })
  return { kind: 'number', value, number, findings }
}

function decimalsTyped(text: string): number {
  const part = /[.,](\d*)/.exec(text)
  return part?.[1]?.length ?? 0
}

export type Key = '0' | '1' | '2' | '3' | '4' | '5' | '6' | '7' | '8' | '9' | '.' | ',' | 'back'

/** The text after a key of the keypad. A second point is not taken; nothing else is second-guessed. */
export function pressed(text: string, key: Key): string {
  if (key === 'back') return text.slice(0, -1)
  if ((key === '.' || key === ',') && /[.,]/.test(text)) return text
  return text.length < MOST_CHARACTERS ? text + key : text
}
