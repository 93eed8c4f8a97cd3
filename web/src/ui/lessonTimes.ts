/** A lesson of a run to be: when it begins, by the clock on the wall, and how long it lasts. */
export interface Lesson {
  begins: string
  minutes: number
}

/** As many lessons as a practical takes: now, then every other day at the same time. */
export function lessonsOf(count: number, now: number): Lesson[] {
  const lessons: Lesson[] = [{ begins: wallClock(now), minutes: 90 }]
  while (lessons.length < count) lessons.push(lessonAfter(lessons.at(-1)))
  return lessons
}

/** The lesson after another one: two days later at the same time on the wall, whatever the clocks do in between. */
export function lessonAfter(last: Lesson | undefined): Lesson {
  if (!last) return { begins: wallClock(Date.now()), minutes: 90 }
  const day = new Date(last.begins)
  day.setDate(day.getDate() + 2)
  return { begins: wallClock(day.getTime()), minutes: last.minutes }
}

/** As a field for date and time writes it. */
export function wallClock(ms: number): string {
  const d = new Date(ms)
  const two = (n: number) => String(n).padStart(2, '0')
  return `${d.getFullYear()}-${two(d.getMonth() + 1)}-${two(d.getDate())}T${two(d.getHours())}:${two(d.getMinutes())}`
}
