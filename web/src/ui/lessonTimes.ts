/** A lesson of a run to be: when it begins, by the clock on the wall, and how long it lasts. */
export interface Lesson {
  begins: string
  minutes: number
}

export const DAY_MS = 86_400_000

/** As many lessons as a practical takes: now, then every other day at the same time. */
export function lessonsOf(count: number, now: number): Lesson[] {
  return Array.from({ length: Math.max(1, count) }, (_, i) => ({
    begins: wallClock(now + i * 2 * DAY_MS),
    minutes: 90,
  }))
}

/** As a field for date and time writes it. */
export function wallClock(ms: number): string {
  const d = new Date(ms)
  const two = (n: number) => String(n).padStart(2, '0')
  return `${d.getFullYear()}-${two(d.getMonth() + 1)}-${two(d.getDate())}T${two(d.getHours())}:${two(d.getMinutes())}`
}
