import type { Finding, ReadingSpec } from '@/api'

/** What can be said of typed digits on the device alone. Everything else is judged by the server. */
export type Typed =
  { kind: 'empty' } | { kind: 'no-number' } | { kind: 'number'; value: number; findings: readonly Finding[] }

/** The most characters that a number has; the server refuses more. */
export const MOST_CHARACTERS = 40

const NUMBER = /^[+\-\u2212]?(\d+[.,]?\d*|[.,]\d+)([eE][+\-\u2212]?\d{1,3})?$/

/** The number that the digits mean, or nothing if they mean none. */
export function numberOf(text: string): number | undefined {
  const plain = text.trim()
  if (!NUMBER.test(plain) || plain.length > MOST_CHARACTERS) return undefined
  const value = Number(plain.replace(',', '.').replaceAll('\u2212', '-'))
  return Number.isFinite(value) ? value : undefined
}

/** Whether typed digits are a number, lie in the expected range, and have the decimals of the instrument. */
export function looked(text: string, spec: ReadingSpec): Typed {
  if (text.trim() === '') return { kind: 'empty' }
  const value = numberOf(text)
  if (value === undefined) return { kind: 'no-number' }
  const [low, high] = spec.range
  const findings: Finding[] = []
  if (low !== undefined && high !== undefined && (value < low || value > high)) {
    findings.push({ kind: 'outside-range', low, high })
  }
  const typed = decimalsTyped(text)
  if (typed !== spec.decimals) findings.push({ kind: 'decimals', expected: spec.decimals, typed })
  return { kind: 'number', value, findings }
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
