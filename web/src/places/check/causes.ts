import type { Cause } from '@/api'

const checks: Record<Cause['kind'], (name: string) => string> = {
  bottle: (name) => `titrate ${name} again`,
  balance: (name) => `put a known mass on ${name}`,
  burette: (name) => `weigh what ${name} delivers`,
  instrument: (name) => `hold ${name} against another one`,
  bench: (name) => `look at what ${name} works with`,
  visit: () => 'look at what was different that day',
  recipe: () => 'they work on another recipe; compare within it',
}

/** A cause that is told, or cancels, in a sentence: how far off, how sure, what else it may be, what to do. */
export function causeWords(cause: Cause, result: string): string {
  const percent = (100 * Math.abs(cause.relative)).toPrecision(2)
  const way = cause.difference < 0 ? 'lower' : 'higher'
  const p = cause.p_corrected < 0.001 ? 'p < 0.001' : `p ${cause.p_corrected.toPrecision(2)}`
  const same =
    cause.same_groups.length > 0
      ? ` It cannot be told apart from ${cause.same_groups.join(', ')}: the same groups, or all the others.`
      : ''
  if (cause.cancels) {
    return `${cause.name}: ${percent} % ${way}, but an offset of it cancels in ${result}; it is not blamed.`
  }
  return `${cause.name} gives ${result} ${percent} % ${way} (${p}, corrected for ${cause.tried} tried): ${checks[cause.kind](cause.name)}.${same}`
}
