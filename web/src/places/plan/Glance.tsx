import type { Note } from '@/api'
import { StateMark } from '@/ui'

/** The plan at one look: what it can give, how good, how long, and how much does not add up. */
export function Glance({ notes }: { notes: readonly Note[] }) {
  const found = notes.map((n) => n.what)
  const precision = found.findLast((c) => c.kind === 'precision')
  const ceiling = found.find((c) => c.kind === 'ceiling')
  const time = found.find((c) => c.kind === 'time')
  const warns = notes.filter((n) => n.warns)
  return (
    <div className="mb-4 text-note">
      <h2 className="mb-2 text-ink">what follows from it</h2>
      <dl className="grid grid-cols-[minmax(0,1fr)_auto] gap-x-3 gap-y-0.5 text-slate [&>dd]:whitespace-nowrap">
        {ceiling && (
          <>
            <dt>highest possible yield</dt>
            <dd className="text-right font-mono text-ink">{`${ceiling.percent}\u2009%`}</dd>
          </>
        )}
        {precision && (
          <>
            <dt>{precision.result}, U (k = 2)</dt>
            <dd className="text-right font-mono text-ink">{`${precision.percent}\u2009%`}</dd>
          </>
        )}
        {time && (
          <>
            <dt>hands-on time</dt>
            <dd className="text-right font-mono text-ink">{`${time.minutes.join('–')}\u2009min`}</dd>
          </>
        )}
      </dl>
      {warns.length === 0 ? (
        <p className="mt-2 flex items-center gap-2 text-teal">
          <StateMark kind="settled" word="settled" /> nothing contradicts itself
        </p>
      ) : (
        <p className="mt-2 flex items-center gap-2 text-amber-text">
          <StateMark kind="doubtful" word="look at this" />
          {warns.length === 1 ? 'one thing does not add up' : `${warns.length} things do not add up`}
        </p>
      )}
    </div>
  )
}
