import { useState } from 'react'
import { client, unwrapped, type VisitView } from '@/api'
import { Failure, Lessons, lessonsOf, wallClock, type Lesson } from '@/ui'
import { offWords } from '@/words'
import { usePeopleAction } from './usePeople'

/** When a run is worked on; changed for all lessons at once. */
export function LessonsForm({
  run,
  visits,
  now,
}: {
  run: number
  visits: readonly VisitView[]
  now: number
}) {
  const kept = visits.map((v) => ({ begins: wallClock(v.begins_at), minutes: v.minutes }))
  const [lessons, setLessons] = useState<readonly Lesson[]>(kept.length > 0 ? kept : lessonsOf(1, now))
  const set = usePeopleAction(run, (list: readonly Lesson[]) =>
    unwrapped(
      client.PUT('/api/v1/runs/{run}/visits', {
        params: { path: { run } },
        body: {
          visits: list.map((l) => ({
            begins_at: new Date(l.begins).getTime(),
            minutes: l.minutes,
          })),
        },
      }),
    ),
  )
  const changed = JSON.stringify(lessons) !== JSON.stringify(kept)
  return (
    <form
      aria-label="lessons"
      onSubmit={(event) => {
        event.preventDefault()
        set.mutate(lessons)
      }}
    >
      <Lessons lessons={lessons} onChange={setLessons} />
      {!changed &&
        offWords(visits).map((words) => (
          <p key={words} className="mb-2 text-amber-text">
            {words}
          </p>
        ))}
      <button type="submit" className="action" disabled={!changed || set.isPending}>
        {changed || !set.isSuccess ? 'Keep these lessons' : 'Kept'}
      </button>
      {set.isError && <Failure error={set.error}>The lessons are as they were.</Failure>}
    </form>
  )
}
