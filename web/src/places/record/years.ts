import type { RunHead } from '@/api'

/** The runs of one practical that found the same in the same unit, so that they stand on one scale. */
export interface Years {
  practical: string
  title: string
  /** What the strips show, with unit. */
  finds: string
  low: number
  high: number
  /** Newest first. */
  runs: readonly RunHead[]
}

/** Runs side by side, by practical and what it finds; the practical that ran last comes first. */
export function sideBySide(runs: readonly RunHead[]): Years[] {
  const groups = new Map<string, RunHead[]>()
  for (const run of [...runs].sort((a, b) => b.opened_at - a.opened_at)) {
    const key = `${run.practical}\n${run.finds}`
    groups.set(key, [...(groups.get(key) ?? []), run])
  }
  return [...groups.values()].map((of) => {
    const [first] = of
    return {
      practical: first?.practical ?? '',
      title: first?.practical_title ?? '',
      finds: first?.finds ?? '',
      low: Math.min(...of.map((r) => r.strip[0] ?? 0)),
      high: Math.max(...of.map((r) => r.strip[1] ?? 1)),
      runs: of,
    }
  })
}

/** The median; none of nothing. */
export function median(values: readonly number[]): number | undefined {
  const sorted = [...values].sort((a, b) => a - b)
  const half = sorted.length >> 1
  const [low, high] = [sorted[half - 1], sorted[half]]
  if (sorted.length % 2 === 1) return high
  return low === undefined || high === undefined ? undefined : (low + high) / 2
}
