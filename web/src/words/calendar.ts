import type { Clash, NoSchool, Return, Slot, VisitView } from '@/api'
import { clockTime, day, dayAndTime, weekdayAndTime } from '@/ui'

/** Why there is no school. */
export function closedWords(closed: NoSchool): string {
  switch (closed.closed) {
    case 'day-off':
      return `the school is closed: ${closed.name}`
    case 'no-lessons':
      return `no lessons on a ${closed.day[0]?.toUpperCase()}${closed.day.slice(1)}`
  }
}

/** Lessons on days without school. */
export function offWords(visits: readonly VisitView[]): string[] {
  return visits.flatMap((v) =>
    v.closed == null ? [] : [`Lesson ${v.nr}, ${day(v.begins_at)}: ${closedWords(v.closed)}.`],
  )
}

/** A lesson that could be: `Fri 13 Nov 08:20, periods 1 to 2`. */
export function slotWords(slot: Slot): string {
  const periods = slot.last == null ? `period ${slot.first}` : `periods ${slot.first} to ${slot.last}`
  return `${day(slot.begins_at)} ${clockTime(slot.begins_at)}, ${periods}`
}

/** From when to when what waits can be gone on with, and how the next lesson stands to that. */
export function returnWords(wait: Return): string {
  const until = wait.latest_at == null ? 'on' : `to ${weekdayAndTime(wait.latest_at)}`
  const ready = `Ready from ${weekdayAndTime(wait.ready_at)} ${until}.`
  const next = `Lesson ${wait.after + 1}`
  switch (wait.stands.stands) {
    case 'fits':
      return `${ready} ${next} fits.`
    case 'too-early':
      return `${ready} ${next} is too early.`
    case 'too-late':
      return `${ready} ${next} is too late.`
    case 'closed':
      return `${ready} ${next} cannot be: ${closedWords(wait.stands.why)}.`
    case 'not-planned':
      return `${ready} ${next} is not planned yet.`
  }
}

/** What could be instead. */
export function couldWords(wait: Return): string {
  if (wait.stands.stands === 'fits') return ''
  if (wait.could.length > 0) return 'Lessons that would do:'
  return wait.latest_at == null ? '' : 'No lesson falls in that time.'
}

/** Two classes at one thing; `called` names a run. */
export function clashWords(clash: Clash, called: (run: number) => string): string {
  const who = clash.runs.map(called).join(' and ')
  return `${dayAndTime(clash.from)} to ${clockTime(clash.to)}: ${who} both want the ${clash.resource}: ${clash.groups} groups at once, room for ${clash.places}.`
}
