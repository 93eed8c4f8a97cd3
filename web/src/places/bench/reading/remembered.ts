import type { Choosable, ReadingSpec } from '@/api'

/** What this device remembers: which named instrument it used last, for each kind, and who wrote on it. */

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

/** Who of a group wrote last on this device. */
export function rememberedWriter(group: number): number | null {
  const kept = localStorage.getItem(`keen-beaker.writer.${group}`)
  return kept === null ? null : Number(kept)
}

export function rememberWriter(group: number, person: number | null): void {
  const key = `keen-beaker.writer.${group}`
  if (person === null) localStorage.removeItem(key)
  else localStorage.setItem(key, String(person))
}
