import type { BenchStep } from '@/api'
import { clockStands, clockTime, Draining, span } from '@/ui'
import type { Running } from '../standing'
import { Meanwhile } from './Meanwhile'

/** A wait that is worth beginning something else in, s. */
const WORTH_IT = 180

/** The clock of a step: it starts on its condition, never by opening the page. */
export function StepClock({
  of,
  clock,
  now,
  closed,
  onClock,
}: {
  of: BenchStep
  clock: Running | undefined
  now: number
  closed: boolean
  onClock: (running: boolean, seconds: number | undefined) => void
}) {
  const planned = of.clock
  const stands = clock && clockStands(clock, now)
  const start = (label: string, seconds: number | undefined) => (
    <button
      type="button"
      className="action min-h-14"
      disabled={closed}
      onClick={() => {
        onClock(true, seconds)
      }}
    >
      {label}
    </button>
  )
  return (
    <section aria-label="clock" className="mb-5 border-y border-rule py-2">
      {(!stands || stands.kind === 'stopped') && (
        <div className="flex flex-wrap items-center gap-x-4 gap-y-2">
          {stands?.kind === 'stopped' && (
            <p className="text-body text-slate">
              ran for <span className="font-mono text-ink">{span(stands.lasted)}</span>, from{' '}
              {clockTime(clock?.since ?? 0)}
            </p>
          )}
          {planned?.from != null &&
            start(`${upper(planned.from)}: start ${span(planned.seconds)}`, planned.seconds)}
          {planned != null &&
            planned.from == null &&
            start(`Start the ${span(planned.seconds)} wait`, planned.seconds)}
          {start(stands ? 'Start the stopwatch again' : 'Start the stopwatch', undefined)}
        </div>
      )}
      {clock && stands && stands.kind !== 'stopped' && (
        <div>
          <p className="flex flex-wrap items-baseline justify-between gap-x-4">
            <span
              role="timer"
              className={`font-mono text-value ${stands.kind === 'out' ? 'text-amber-text' : ''}`}
            >
              {stands.kind === 'up'
                ? span(stands.passed)
                : stands.kind === 'down'
                  ? span(stands.left)
                  : `+${span(stands.over)}`}
            </span>
            <span className="text-body text-slate">
              {stands.kind === 'up' ? 'counting up' : stands.kind === 'down' ? 'left' : 'over time'} · from{' '}
              {clockTime(clock.since)}
            </span>
          </p>
          {clock.seconds != null && (
            <Draining
              seconds={clock.seconds}
              part={stands.kind === 'down' ? stands.part : 1}
              over={stands.kind === 'out'}
            />
          )}
          <button
            type="button"
            className="min-h-14 text-body underline underline-offset-4"
            disabled={closed}
            onClick={() => {
              onClock(false, clock.seconds ?? undefined)
            }}
          >
            {stands.kind === 'out' ? 'Stop the alarm' : 'Stop the clock'}
          </button>
          {stands.kind === 'down' && stands.left > WORTH_IT && (
            <span className="ml-5">
              <Meanwhile />
            </span>
          )}
        </div>
      )}
    </section>
  )
}

const upper = (text: string) => text.charAt(0).toUpperCase() + text.slice(1)
