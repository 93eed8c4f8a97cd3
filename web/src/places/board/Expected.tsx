import { useQuery } from '@tanstack/react-query'
import { client, unwrapped, type ExpectedView } from '@/api'
import { clockTime, StateMark } from '@/ui'

/** So much may an expected end move before the board says another one, ms. */
const STILL = 2 * 60_000

/** When the class will be through, by where each group really is. */
export function Expected({ run }: { run: number }) {
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
  const { ends_at, groups } = shown
  const late = groups.filter((g) => g.through_at > ends_at + STILL)
  const last = Math.max(...groups.map((g) => g.through_at))
  if (late.length === 0) {
    return (
      <p className="mt-1 text-note text-slate">
        <StateMark kind="settled" word="in time" /> At the usual pace all are through by {clockTime(last)}.
      </p>
    )
  }
  const named = late.map((g) => `${g.name} ${clockTime(g.through_at)}`).join(', ')
  return (
    <p className="mt-1 text-note text-amber-text">
      <StateMark kind="doubtful" word="not in time" /> At the usual pace {late.length} of {groups.length} will
      not be through by {clockTime(ends_at)}: {named}.
    </p>
  )
}

function hasMoved(before: ExpectedView, now: ExpectedView): boolean {
  return (
    before.ends_at !== now.ends_at ||
    before.groups.length !== now.groups.length ||
    before.groups.some((g, i) => Math.abs(g.through_at - (now.groups[i]?.through_at ?? 0)) > STILL)
  )
}
