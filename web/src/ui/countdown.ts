/** Spans of time as they stand on a clock, and what is left of one. */

/** How a clock stands: counting up, running down, or run out. */
export type ClockStands =
  | { kind: 'up'; passed: number }
  | { kind: 'down'; left: number; part: number }
  | { kind: 'out'; over: number }
  | { kind: 'stopped'; lasted: number }

export interface ClockRun {
  since: number
  seconds?: number | null | undefined
  stopped?: number | null | undefined
}

/** How a clock stands at `now` (ms): spans in s, the part that is left between 0 and 1. */
export function clockStands(clock: ClockRun, now: number): ClockStands {
  if (clock.stopped != null)
    return { kind: 'stopped', lasted: Math.max(0, (clock.stopped - clock.since) / 1000) }
  const passed = Math.max(0, (now - clock.since) / 1000)
  if (clock.seconds == null) return { kind: 'up', passed }
  const left = clock.seconds - passed
  return left > 0
    ? { kind: 'down', left, part: left / clock.seconds }
    : { kind: 'out', over: passed - clock.seconds }
}

/** `4:05`, `1:04:05`, `2 d 3 h`: as much as is of use. */
export function span(seconds: number): string {
  const s = Math.floor(seconds)
  const two = (n: number) => String(n).padStart(2, '0')
  if (s >= 86_400) return `${Math.floor(s / 86_400)} d ${Math.floor((s % 86_400) / 3600)} h`
  if (s >= 3600) return `${Math.floor(s / 3600)}:${two(Math.floor((s % 3600) / 60))}:${two(s % 60)}`
  return `${Math.floor(s / 60)}:${two(s % 60)}`
}
