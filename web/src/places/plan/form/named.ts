import type { PracticalFile } from '@/api'

/** What a practical has names for, to choose from. */
export interface Named {
  materials: readonly string[]
  readings: readonly string[]
  vessels: readonly string[]
  instruments: readonly string[]
  observations: readonly string[]
  resources: readonly string[]
  unknowns: readonly string[]
  results: readonly string[]
  /** Results and reasons that groups are asked for. */
  asked: readonly string[]
  /** Of the technique library. */
  techniques: readonly string[]
}

export function namedIn(file: PracticalFile, techniques: readonly string[]): Named {
  const results = file.results ?? []
  const reasons = (file.reasons ?? []).map((r) => r.name)
  return {
    materials: (file.materials ?? []).map((m) => m.symbol),
    readings: (file.readings ?? []).map((r) => r.symbol),
    vessels: (file.vessels ?? []).map((v) => v.name),
    instruments: (file.instruments ?? []).map((i) => i.name),
    observations: (file.observations ?? []).map((o) => o.symbol),
    resources: (file.resources ?? []).map((r) => r.name),
    unknowns: (file.unknowns ?? []).map((u) => u.code),
    results: results.map((r) => r.name),
    asked: [...results.filter((r) => r.asked).map((r) => r.name), ...reasons],
    techniques,
  }
}
