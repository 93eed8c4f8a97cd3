import type { BenchView, ReadingSpec } from '@/api'

/** What an instructor took out, and why: the place is open again, and nothing is hidden. */
export function TakenOut({ view, readings }: { view: BenchView; readings: readonly ReadingSpec[] }) {
  return readings.flatMap((r) => {
    const last = view.taken_out[r.symbol]?.at(-1)
    if (!last) return []
    return [
      <p key={r.symbol} className="mb-3 border-l-3 border-copper pl-3 text-body">
        {r.label}: <s className="font-mono text-slate">{last.text}</s> was taken out by your instructor
        {last.reason != null && `: ${last.reason}`}. Read it again.
      </p>,
    ]
  })
}
