import { Link } from 'react-router'
import type { RunHead } from '@/api'
import { clockTime, day, dayAndTime, DotStrip, sameDay } from '@/ui'

/** One run: how far it is, and its results as a distribution. */
export function RunLine({ run, now }: { run: RunHead; now: number }) {
  const days = Math.round((now - run.opened_at) / 86_400_000)
  const [low = 0, high = 1] = run.strip
  const next = run.visits.find((v) => v.begins_at + v.minutes * 60_000 > now)
  const end = (v: number) => Number(v.toPrecision(3)).toString()
  const when = days === 0 ? 'since today' : days === 1 ? 'since yesterday' : `since ${day(run.opened_at)}`
  return (
    <article className="grid items-center gap-x-10 gap-y-2 desk:grid-cols-[minmax(0,1.3fr)_minmax(0,1fr)_auto] border-t border-rule py-4 last:border-b">
      <div>
        <h3 className="text-lead">
          <Link
            to={`/board/${run.id}`}
            className="underline decoration-rule underline-offset-4 hover:decoration-copper"
          >
            {run.title}
          </Link>
        </h3>
        <p className="text-slate">
          {run.class} · {run.groups} groups · {when}
          {run.closed_at != null && ` · closed ${day(run.closed_at)}`}
          {run.paused_at != null && ' · paused'}
          {run.closed_at == null && next && (
            <>
              {' · '}
              {sameDay(next.begins_at, now)
                ? `lesson ${next.nr} today at ${clockTime(next.begins_at)}`
                : `lesson ${next.nr} on ${dayAndTime(next.begins_at)}`}
            </>
          )}
        </p>
      </div>
      <div className="flex flex-wrap items-end gap-6 desk:flex-nowrap desk:items-start">
        <Filled run={run} />
        <figure>
          <DotStrip
            dots={run.values.map((value) => ({
              value,
              tone: value < low || value > high ? 'doubtful' : 'plain',
              label: end(value),
            }))}
            low={low}
            high={high}
            unit=""
            width={170}
          />
          <figcaption className="text-note text-slate">
            {run.finds}, {end(low)} to {end(high)}
          </figcaption>
        </figure>
      </div>
      <div className="flex items-baseline gap-5 desk:block desk:text-right">
        <p className="font-mono text-lead">{run.code}</p>
        <p className="flex gap-4 text-note">
          <Link className="text-copper-text underline underline-offset-4" to={`/board/${run.id}`}>
            Board
          </Link>
          <Link className="text-copper-text underline underline-offset-4" to={`/check/${run.id}`}>
            Check
          </Link>
        </p>
      </div>
    </article>
  )
}

/** Readings entered on a graduated line: one tick a reading, long ones at every group. */
function Filled({ run }: { run: RunHead }) {
  const width = 130
  const per = run.groups > 0 ? run.readings / run.groups : 1
  const x = (n: number) => 2 + (n / Math.max(1, run.readings)) * (width - 4)
  return (
    <figure>
      <svg
        width={width}
        height={32}
        viewBox={`0 0 ${width} 32`}
        className="h-auto max-w-full"
        role="img"
        aria-label={`${run.entered} of ${run.readings} readings entered`}
      >
        <path d={`M2 18H${x(run.entered)}`} className="stroke-copper" strokeWidth="4" />
        {Array.from({ length: run.readings + 1 }, (_, n) => (
          <path key={n} d={`M${x(n)} 22v${n % per === 0 ? 8 : 4}`} className="stroke-pencil" />
        ))}
      </svg>
      <figcaption className="text-note text-slate">
        {run.entered} of {run.readings} readings
      </figcaption>
    </figure>
  )
}
