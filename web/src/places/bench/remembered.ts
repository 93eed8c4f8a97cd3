import type { Choosable, ReadingSpec } from '@/api'

/** Which named instrument this device used last, for each kind: Balance 2, Burette A. */

const key = (spec: ReadingSpec) => `keen-beaker.on.${spec.instrument_kind}`

/** The instrument used last on this device, if it is one of those that there are. */
export function rememberedFor(spec: ReadingSpec, choices: readonly Choosable[]): string | null {
  const last = localStorage.getItem(key(spec))
  return (
    choices.find((c) => c.name === last)?.name ?? (choices.length === 1 ? (choices[0]?.name ?? null) : null)
  )
}

export function remember(spec: ReadingSpec, name: string): void {
  localStorage.setItem(key(spec), name)
}
