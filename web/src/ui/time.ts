/** Times of day and dates as people of the room read them. */

export function clockTime(ms: number): string {
  return new Date(ms).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' })
}

export function dayAndTime(ms: number): string {
  const day = new Date(ms).toLocaleDateString('en-GB', { day: 'numeric', month: 'short' })
  return `${day}, ${clockTime(ms)}`
}

export function day(ms: number): string {
  return new Date(ms).toLocaleDateString('en-GB', { weekday: 'short', day: 'numeric', month: 'short' })
}

/** A weekday and a time, as a reminder says it: `Tuesday 14:10`. */
export function weekdayAndTime(ms: number): string {
  return `${new Date(ms).toLocaleDateString('en-GB', { weekday: 'long' })} ${clockTime(ms)}`
}

/** How long something lasts, in the largest unit that fits: `2 days`, `20 h`, `35 min`. */
export function howLong(ms: number): string {
  const minutes = Math.max(0, Math.round(ms / 60_000))
  if (minutes < 90) return `${minutes} min`
  const hours = Math.round(minutes / 60)
  if (hours < 36) return `${hours} h`
  const days = Math.round(hours / 24)
  return days === 1 ? '1 day' : `${days} days`
}

export function sameDay(a: number, b: number): boolean {
  return new Date(a).toDateString() === new Date(b).toDateString()
}
