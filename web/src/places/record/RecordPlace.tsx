import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link, useSearchParams } from 'react-router'
import { client, unwrapped, type RunHead } from '@/api'
import { day, DotStrip, Failure, setNumber, Tick, Unit } from '@/ui'
import { Findings } from './find/Findings'
import { TakeIn } from './TakeIn'
import { median, sideBySide, type Years } from './years'

/** Every run there ever was, one practical's classes side by side; and whatever is looked for. */
export function RecordPlace() {
  const [address, setAddress] = useSearchParams()
  const wanted = address.get('q') ?? ''
  const shelf = useQuery({ queryKey: ['shelf'], queryFn: () => unwrapped(client.GET('/api/v1/shelf')) })
  const [archived, setArchived] = useState(false)
  if (shelf.isPending) return <p className="py-12 text-slate">Opening the record …</p>
  if (shelf.isError) return <Failure error={shelf.error} />
  const { runs } = shelf.data
  const away = runs.filter((r) => r.archived_at != null).length
  const shown = archived ? runs : runs.filter((r) => r.archived_at == null)
  return (
    <div className="border-l border-copper pl-4 tablet:pl-8">
      <h1 className="text-title">The record</h1>
      <p className="mb-4 flex flex-wrap gap-x-6 text-slate">
        <span>What every class found, each practical on one scale. No names appear here.</span>
        <Link to="/record/keeping" className="text-copper-text underline underline-offset-4">
          backups
        </Link>
      </p>
      <label className="mb-6 flex flex-wrap items-baseline gap-3">
        <span className="text-note text-slate">find</span>
        <input
          type="search"
          className="field w-full max-w-96"
          placeholder="a run, class, group, person, note"
          maxLength={80}
          value={wanted}
          onChange={(event) => {
            const q = event.target.value
            setAddress(q === '' ? {} : { q }, { replace: true })
          }}
        />
      </label>
      {wanted.trim() !== '' ? (
        <Findings wanted={wanted} />
      ) : (
        <>
          {runs.length === 0 && (
            <p className="border-y border-rule py-4 text-slate">
              No class has run yet. Start a run from the head of a practical’s plan.
            </p>
          )}
          {away > 0 && (
            <div className="mb-4">
              <Tick ticked={archived} onTick={setArchived}>
                show {away} archived {away === 1 ? 'run' : 'runs'}
              </Tick>
            </div>
          )}
          {sideBySide(shown).map((years) => (
            <SideBySide key={`${years.practical} ${years.finds}`} years={years} />
          ))}
          <TakeIn />
        </>
      )}
    </div>
  )
}

/** A practical's classes on one scale; a class can be left out, and the scale is that of the others. */
function SideBySide({ years }: { years: Years }) {
  const [without, setWithout] = useState<ReadonlySet<number>>(new Set())
  const [scale] = sideBySide(years.runs.filter((r) => !without.has(r.id)))
  const shown = scale ?? years
  return (
    <section aria-label={years.title} className="mb-8">
      <h2 className="border-b border-ink pb-1 text-lead">{years.title}</h2>
      <p className="flex flex-wrap gap-x-4 py-1 text-note text-slate">
        {years.finds}
        {without.size > 0 && (
          <button
            type="button"
            className="min-h-6 text-copper-text underline underline-offset-4"
            onClick={() => {
              setWithout(new Set())
            }}
          >
            {without.size} left out: show all
          </button>
        )}
      </p>
      <ul>
        {shown.runs.map((run) => (
          <Year
            key={run.id}
            run={run}
            years={shown}
            onLeaveOut={
              shown.runs.length > 1
                ? () => {
                    setWithout(new Set([...without, run.id]))
                  }
                : undefined
            }
          />
        ))}
      </ul>
    </section>
  )
}

function Year({
  run,
  years,
  onLeaveOut,
}: {
  run: RunHead
  years: Years
  onLeaveOut: (() => void) | undefined
}) {
  const found = median(run.values)
  const shown = (v: number) => setNumber(Number(v.toPrecision(3)).toString())
  return (
    <li className="grid items-center gap-x-8 gap-y-1 border-b border-rule py-2 tablet:grid-cols-[minmax(0,16rem)_minmax(0,1fr)_12rem]">
      <p>
        <Link to={`/record/${run.id}`} className="text-copper-text underline underline-offset-4">
          {run.class}
          {run.title !== run.practical_title && `, ${run.title}`}
        </Link>
        <span className="block text-note text-slate">
          {day(run.opened_at)} {new Date(run.opened_at).getFullYear()}, version {run.version}
          {run.closed_at == null && ', under way'}
          {run.from_elsewhere && ', from another school'}
          {run.archived_at != null && ', archived'}
        </span>
      </p>
      <DotStrip
        dots={run.values.map((value) => ({ value, tone: 'plain' as const, label: shown(value) }))}
        low={years.low}
        high={years.high}
        unit={run.unit}
        width={420}
      />
      <p className="text-note text-slate tablet:text-right">
        {found === undefined ? (
          'no results yet'
        ) : (
          <>
            median{' '}
            <span className="font-mono text-body text-ink">
              {shown(found)}
              <Unit of={run.unit} />
            </span>
            <span className="block">
              {run.values.length} of {run.groups} groups
            </span>
          </>
        )}
        {onLeaveOut && (
          <button
            type="button"
            aria-label={`leave ${run.class} out`}
            className="min-h-6 underline decoration-rule underline-offset-4 hover:text-ink"
            onClick={onLeaveOut}
          >
            leave out
          </button>
        )}
      </p>
    </li>
  )
}
