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

export function sameDay(a: number, b: number): boolean {
  return new Date(a).toDateString() === new Date(b).toDateString()
}
