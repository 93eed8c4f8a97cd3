import type { RunWait, VisitView, Waiting } from '@/api'
import { clockTime, howLong, sameDay, weekdayAndTime } from '@/ui'

/** A moment as a reminder says it: the time alone when it is today. */
function moment(ms: number, now: number): string {
  return sameDay(ms, now) ? clockTime(ms) : weekdayAndTime(ms)
}

/** The first lesson at which something that is ready by then can be gone on with. */
export function lessonFor(visits: readonly VisitView[], readyAt: number, now: number): VisitView | undefined {
  return visits.find((v) => v.begins_at + v.minutes * 60_000 > Math.max(readyAt, now))
}

/** What waits at one bench, and what to do about it now. */
export function waitingWords(w: Waiting, now: number): string {
  const since = `${w.title}: since ${moment(w.since, now)}, ${howLong(now - w.since)}.`
  const then = w.then_title ?? 'weigh and go on'
  if (w.latest_at != null && now > w.latest_at) {
    return `${since} It should have been gone on with by ${moment(w.latest_at, now)}. Next: ${then}.`
  }
  if (now >= w.ready_at) return `${since} It is ready. Next: ${then}.`
  return `${since} Ready from ${moment(w.ready_at, now)} on (${w.wait}). Then: ${then}.`
}

/** What waits at the benches of a run after one step, with the lesson at which it is gone on with. */
export function runWaitWords(w: RunWait, visits: readonly VisitView[], now: number): string {
  const who = w.groups.length > 3 ? `${w.groups.length} groups` : w.groups.join(', ')
  const then = w.then == null ? 'Weigh and go on' : w.then
  const lesson = lessonFor(visits, w.ready_at, now)
  const when =
    lesson === undefined
      ? `: ready from ${moment(w.ready_at, now)} on, and no lesson is planned after that`
      : lesson.begins_at <= now
        ? ' in this lesson'
        : ` on ${weekdayAndTime(lesson.begins_at)}`
  const late =
    w.latest_at != null && lesson !== undefined && lesson.begins_at > w.latest_at
      ? ` It should not wait longer than ${weekdayAndTime(w.latest_at)}.`
      : ''
  return `${w.step}: ${who}, since ${moment(w.since, now)}. ${then}${when}.${late}`
}
