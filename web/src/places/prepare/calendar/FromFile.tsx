import { useState } from 'react'
import type { DaysOff, FoundInCalendar, Period } from '@/api'
import { Failure } from '@/ui'
import { useCalendar } from './useCalendar'

/** Days off and bells out of an iCalendar file: what of it is one, a person says. */
export function FromFile({ onTaken }: { onTaken: (periods: Period[], daysOff: DaysOff[]) => void }) {
  const { read } = useCalendar()
  return (
    <section aria-label="from a calendar file" className="mt-10 print:hidden">
      <label className="action inline-block cursor-pointer focus-within:outline-3 focus-within:outline-copper">
        Read an iCalendar file
        <input
          type="file"
          accept=".ics,text/calendar"
          className="sr-only"
          onChange={(event) => {
            const file = event.target.files?.[0]
            event.target.value = ''
            if (file)
              void file.text().then((text) => {
                read.mutate(text)
              })
          }}
        />
      </label>
      {read.isError && <Failure error={read.error} />}
      {read.data && (
        <Found
          key={JSON.stringify(read.data)}
          found={read.data}
          onTaken={(periods, daysOff) => {
            onTaken(periods, daysOff)
            read.reset()
          }}
        />
      )}
    </section>
  )
}

function Found({
  found,
  onTaken,
}: {
  found: FoundInCalendar
  onTaken: (periods: Period[], daysOff: DaysOff[]) => void
}) {
  const [days, setDays] = useState<ReadonlySet<number>>(new Set())
  const [bells, setBells] = useState<ReadonlySet<number>>(new Set())
  const nothing = found.days.length === 0 && found.periods.length === 0
  return (
    <div className="mt-4">
      <p className="text-slate">{nothing ? 'Nothing to take from it.' : 'Tick what you want to keep.'}</p>
      <div className="grid gap-x-12 gap-y-4 tablet:grid-cols-2">
        <Ticks
          label="all day"
          items={found.days.map((d) => `${d.name}: ${d.from === d.to ? d.from : `${d.from} to ${d.to}`}`)}
          ticked={days}
          onTick={setDays}
        />
        <Ticks
          label="start times"
          items={found.periods.map((p) => `${p.from.slice(0, 5)}, ${p.minutes} min`)}
          ticked={bells}
          onTick={setBells}
        />
      </div>
      <LeftOut found={found} />
      <button
        type="button"
        className="action mt-2"
        disabled={days.size + bells.size === 0}
        onClick={() => {
          onTaken(
            found.periods.filter((_, i) => bells.has(i)),
            found.days.filter((_, i) => days.has(i)),
          )
        }}
      >
        Add them
      </button>
    </div>
  )
}

function Ticks({
  label,
  items,
  ticked,
  onTick,
}: {
  label: string
  items: readonly string[]
  ticked: ReadonlySet<number>
  onTick: (ticked: ReadonlySet<number>) => void
}) {
  if (items.length === 0) return null
  return (
    <fieldset>
      <legend className="text-note text-slate">{label}</legend>
      {items.map((item, i) => (
        <label key={item} className="flex min-h-8 items-center gap-2">
          <input
            type="checkbox"
            className="size-4 accent-copper"
            checked={ticked.has(i)}
            onChange={(event) => {
              const next = new Set(ticked)
              if (event.target.checked) next.add(i)
              else next.delete(i)
              onTick(next)
            }}
          />
          {item}
        </label>
      ))}
    </fieldset>
  )
}

/** What was not read, and why. */
function LeftOut({ found }: { found: FoundInCalendar }) {
  const said = [
    found.past > 0 && `${found.past} already past`,
    found.unread > 0 && `${found.unread} with a time that could not be read`,
    found.repeating.length > 0 && `only the first time of what repeats: ${found.repeating.join(', ')}`,
    found.unknown_zones.length > 0 &&
      `no such time zone, taken as the school’s own: ${found.unknown_zones.join(', ')}`,
  ].filter((line) => line !== false)
  if (said.length === 0) return null
  return (
    <ul aria-label="not read" className="mt-2 text-note text-slate">
      {said.map((line) => (
        <li key={line}>{line}</li>
      ))}
    </ul>
  )
}
