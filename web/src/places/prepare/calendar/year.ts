import type { DaysOff } from '@/api'

const DAY = 86_400_000

/** A date as a count of days: `2026-11-16`. */
export function dayOf(date: string): number {
  return Math.floor(Date.parse(`${date}T00:00:00Z`) / DAY)
}

/** The year that is shown: twelve months from the last September, or from the one before what is off. */
export function schoolYear(now: Date, daysOff: readonly DaysOff[]): { from: number; days: number } {
  const first = daysOff.find((d) => d.to >= d.from)
  const about = first === undefined ? now : new Date(`${first.from}T00:00:00Z`)
  const year = about.getUTCMonth() >= 7 ? about.getUTCFullYear() : about.getUTCFullYear() - 1
  const from = Date.UTC(year, 7, 1) / DAY
  return { from, days: Date.UTC(year + 1, 7, 1) / DAY - from }
}

/** The months of a span of days: on which of them each begins, and its name. */
export function monthsOf(from: number, days: number): { day: number; name: string }[] {
  const begin = new Date(from * DAY)
  const months = Array.from({ length: 13 }, (_, i) =>
    Date.UTC(begin.getUTCFullYear(), begin.getUTCMonth() + i),
  )
  return months
    .map((at) => ({
      day: at / DAY - from,
      name: new Date(at).toLocaleDateString('en-GB', { month: 'short', timeZone: 'UTC' }),
    }))
    .filter((m) => m.day < days)
}
