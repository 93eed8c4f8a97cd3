import { Link } from 'react-router'
import type { BenchView } from '@/api'
import { clockStands, span, useRinging } from '@/ui'
import type { BenchNow } from './standing'

/** Clocks that run at other steps, and those that have run out; all of them can be muted at once. */
export function Alarms({
  view,
  now,
  time,
  at,
}: {
  view: BenchView
  now: BenchNow
  time: number
  at: number | null
}) {
  const running = now.clocks
    .filter((c) => c.stopped == null && c.seconds != null)
    .map((c) => ({ step: c.step, stands: clockStands(c, time) }))
  const out = running.filter((c) => c.stands.kind === 'out')
  const { muted, mute } = useRinging(out.length > 0)
  const shown = running.filter((c) => c.step !== at || c.stands.kind === 'out')
  if (shown.length === 0) return null
  return (
    <section aria-label="clocks running" className="border-b border-rule">
      {shown.map(({ step, stands }) => (
        <Link
          key={step}
          to={`/bench/${step + 1}`}
          className={`flex min-h-12 items-center justify-between gap-3 px-3 text-body ${
            stands.kind === 'out' ? 'border-l-4 border-amber font-semibold text-amber-text' : 'text-slate'
          }`}
        >
          <span>
            {stands.kind === 'out' ? 'Time: ' : ''}
            {view.steps[step]?.title}
          </span>
          <span className="font-mono">
            {stands.kind === 'down'
              ? span(stands.left)
              : stands.kind === 'out'
                ? `+${span(stands.over)}`
                : ''}
          </span>
        </Link>
      ))}
      {out.length > 0 && (
        <button
          type="button"
          aria-pressed={muted}
          className="min-h-12 px-3 text-body underline underline-offset-4"
          onClick={() => {
            mute(!muted)
          }}
        >
          {muted ? 'Alarms are muted on this device: let them sound' : 'Mute all alarms on this device'}
        </button>
      )}
    </section>
  )
}
