import type { Period } from '@/api'

/** The bell: name, beginning and length of each period. */
export function PeriodList({
  periods,
  onChange,
}: {
  periods: readonly Period[]
  onChange: (periods: Period[]) => void
}) {
  const set = (at: number, part: Partial<Period>) => {
    onChange(periods.map((p, i) => (i === at ? { ...p, ...part } : p)))
  }
  return (
    <fieldset className="min-w-0">
      <legend className="mb-2 text-lead">periods</legend>
      {periods.length === 0 && (
        <p className="mb-2 text-slate">
          No periods yet. With them, a lesson can be suggested for whatever has to wait.
        </p>
      )}
      <ul>
        {periods.map((period, i) => (
          <li key={i} className="mb-1 flex flex-wrap items-center gap-2">
            <input
              aria-label={`name of period ${i + 1}`}
              className="field w-16 text-center"
              required
              maxLength={40}
              value={period.name}
              onChange={(event) => {
                set(i, { name: event.target.value })
              }}
            />
            <input
              type="time"
              aria-label={`period ${period.name} begins`}
              className="field font-mono"
              required
              value={period.from.slice(0, 5)}
              onChange={(event) => {
                set(i, { from: `${event.target.value}:00` })
              }}
            />
            <input
              type="number"
              aria-label={`minutes of period ${period.name}`}
              className="field w-20 font-mono"
              min={1}
              max={600}
              required
              value={period.minutes}
              onChange={(event) => {
                set(i, { minutes: Number(event.target.value) })
              }}
            />
            <span className="text-slate">min</span>
            <button
              type="button"
              aria-label={`remove period ${period.name}`}
              className="min-h-8 px-2 text-copper-text underline underline-offset-4"
              onClick={() => {
                onChange(periods.filter((_, at) => at !== i))
              }}
            >
              remove
            </button>
          </li>
        ))}
      </ul>
      <button
        type="button"
        className="min-h-8 text-copper-text underline underline-offset-4"
        onClick={() => {
          onChange([...periods, after(periods.at(-1), periods.length + 1)])
        }}
      >
        one more period
      </button>
    </fieldset>
  )
}

/** A period as long as the last one, five minutes after it. */
function after(last: Period | undefined, nr: number): Period {
  if (last === undefined) return { name: '1', from: '08:00:00', minutes: 45 }
  const [hours = 8, minutes = 0] = last.from.split(':').map(Number)
  const begins = Math.min(hours * 60 + minutes + last.minutes + 5, 23 * 60 + 59)
  const two = (n: number) => String(n).padStart(2, '0')
  return {
    name: String(nr),
    from: `${two(Math.floor(begins / 60))}:${two(begins % 60)}:00`,
    minutes: last.minutes,
  }
}
