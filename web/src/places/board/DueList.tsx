import { Draining, span, useRinging } from '@/ui'
import type { Due } from './attention'

/** Draining scales of what is due: whose clock runs, and how much of it is left. A sleeping phone cannot ring; this can. */
export function DueList({ due }: { due: readonly Due[] }) {
  const out = due.filter((d) => d.stands.kind === 'out')
  const { muted, mute } = useRinging(out.length > 0)
  if (due.length === 0) return null
  return (
    <section aria-label="clocks" className="mb-6">
      <h2 className="mb-2 text-note text-ink">due</h2>
      <ul className="flex flex-col gap-2">
        {due.map((d) => (
          <li key={`${d.name} ${d.step}`} className="text-note">
            <p
              className={`flex justify-between gap-2 ${d.stands.kind === 'out' ? 'font-semibold text-amber-text' : ''}`}
            >
              <span>
                {d.name} <span className="text-slate">{d.step}</span>
              </span>
              <span className="font-mono">
                {d.stands.kind === 'down'
                  ? span(d.stands.left)
                  : d.stands.kind === 'out'
                    ? `+${span(d.stands.over)}`
                    : ''}
              </span>
            </p>
            <Draining
              seconds={d.seconds}
              part={d.stands.kind === 'down' ? d.stands.part : 1}
              over={d.stands.kind === 'out'}
            />
          </li>
        ))}
      </ul>
      {(out.length > 0 || muted) && (
        <button
          type="button"
          aria-pressed={muted}
          className="mt-1 min-h-6 text-note text-copper-text underline underline-offset-4"
          onClick={() => {
            mute(!muted)
          }}
        >
          {muted ? 'alarms are muted: let them sound' : 'mute all alarms here'}
        </button>
      )}
    </section>
  )
}
