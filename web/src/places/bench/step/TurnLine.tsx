import type { BenchView } from '@/api'
import { clockTime } from '@/ui'

/** A turn at what groups share, told at its step and at the one before: `Balance 2 is yours at 10:12`. */
export function TurnLine({ view, step }: { view: BenchView; step: number }) {
  const { turn } = view
  if (turn == null || (turn.step !== step && turn.step !== step + 1)) return null
  const what = turn.unit == null ? `the ${turn.resource}` : `${turn.resource} ${turn.unit}`
  return (
    <p className="mb-4 border-l-3 border-copper pl-3 text-body">
      {what.charAt(0).toUpperCase() + what.slice(1)} is yours at{' '}
      <span className="font-mono">{clockTime(turn.at)}</span>
    </p>
  )
}
