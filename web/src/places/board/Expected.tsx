import { useQuery } from '@tanstack/react-query'
import { client, unwrapped, type ExpectedView } from '@/api'
import { clockTime, StateMark } from '@/ui'

/** So much may an expected end move before the board says another one, ms. */
const STILL = 2 * 60_000
/** A last moment that is further away does not press, ms. */
const SOON = 20 * 60_000

/** When the class will be through, by where each group really is. */
export function Expected({ run, now }: { run: number; now: number }) {
  const expected = useQuery({
    queryKey: ['expected', run],
    queryFn: () => unwrapped(client.GET('/api/v1/runs/{run}/expected', { params: { path: { run } } })),
    refetchInterval: 30_000,
    // What was shown stands until something moves by more than two minutes.
    structuralSharing: (before, now) =>
      before !== undefined && !hasMoved(before as ExpectedView, now as ExpectedView) ? before : now,
  })
  const shown = expected.data
  if (shown?.ends_at == null || shown.groups.length === 0) return null
  const { ends_at, groups, queue } = shown
  const late = groups.filter((g) => g.through_at > ends_at + STILL)
  const last = Math.max(...groups.map((g) => g.through_at))
  return (
    <>
      {late.length === 0 ? (
        <p className="mt-1 text-note text-slate">
          <StateMark kind="settled" word="in time" /> At the usual pace all are through by {clockTime(last)}.
        </p>
      ) : (
        <p className="mt-1 text-note text-amber-text">
          <StateMark kind="doubtful" word="not in time" /> At the usual pace {late.length} of {groups.length}{' '}
          will not be through by {clockTime(ends_at)}:{' '}
          {late.map((g) => `${g.name} ${clockTime(g.through_at)}`).join(', ')}.
        </p>
      )}
      <Pressing of={shown} now={now} />
      {queue.length > 0 && (
        <p className="text-note text-slate">
          Will wait:{' '}
          {queue.map((w) => `${w.name} for a ${w.resource} until ${clockTime(w.until)}`).join(', ')}.
        </p>
      )}
    </>
  )
}

/** What has to be begun soon, or is too late to begin: it could not be stopped before the lesson ends. */
function Pressing({ of, now }: { of: ExpectedView; now: number }) {
  return of.begin_by
    .filter((b) => b.at - now < SOON)
    .map((b) => (
      <p key={b.title} className={`text-note ${b.at < now ? 'text-amber-text' : 'text-slate'}`}>
        {b.at < now
          ? `Too late to begin “${b.title}” before the lesson ends`
          : `Begin “${b.title}” by ${clockTime(b.at)}`}
        : {b.groups.join(', ')}.
      </p>
    ))
}

function hasMoved(before: ExpectedView, now: ExpectedView): boolean {
  return (
    before.ends_at !== now.ends_at ||
    before.groups.length !== now.groups.length ||
    before.groups.some((g, i) => Math.abs(g.through_at - (now.groups[i]?.through_at ?? 0)) > STILL) ||
    waiting(before) !== waiting(now) ||
    before.begin_by.some((b, i) => b.groups.join() !== now.begin_by[i]?.groups.join())
  )
}

/** Who waits for what; that a wait ends a minute later is no news. */
function waiting({ queue }: ExpectedView): string {
  return queue.map((w) => `${w.name} ${w.resource}`).join()
}
