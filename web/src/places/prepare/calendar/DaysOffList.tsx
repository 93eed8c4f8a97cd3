import type { DaysOff } from '@/api'

/** When the school is closed. */
export function DaysOffList({
  daysOff,
  onChange,
}: {
  daysOff: readonly DaysOff[]
  onChange: (daysOff: DaysOff[]) => void
}) {
  const set = (at: number, part: Partial<DaysOff>) => {
    onChange(daysOff.map((d, i) => (i === at ? { ...d, ...part } : d)))
  }
  return (
    <fieldset className="min-w-0">
      <legend className="mb-2 text-lead">days off</legend>
      {daysOff.length === 0 && (
        <p className="mb-2 text-slate">None yet. They can be read from a calendar file, below.</p>
      )}
      <ul>
        {daysOff.map((off, i) => (
          <li key={i} className="mb-1 flex flex-wrap items-center gap-2">
            <input
              aria-label={`name of days off ${i + 1}`}
              className="field w-44"
              required
              maxLength={40}
              value={off.name}
              onChange={(event) => {
                set(i, { name: event.target.value })
              }}
            />
            <input
              type="date"
              aria-label={`first day of ${off.name}`}
              className="field font-mono"
              required
              value={off.from}
              onChange={(event) => {
                set(i, { from: event.target.value })
              }}
            />
            <span className="text-slate">to</span>
            <input
              type="date"
              aria-label={`last day of ${off.name}`}
              className="field font-mono"
              required
              min={off.from}
              value={off.to}
              onChange={(event) => {
                set(i, { to: event.target.value })
              }}
            />
            <button
              type="button"
              aria-label={`remove ${off.name}`}
              className="min-h-8 px-2 text-copper-text underline underline-offset-4"
              onClick={() => {
                onChange(daysOff.filter((_, at) => at !== i))
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
          const from = daysOff.at(-1)?.to ?? new Date().toISOString().slice(0, 10)
          onChange([...daysOff, { name: '', from, to: from }])
        }}
      >
        more days off
      </button>
    </fieldset>
  )
}
