import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link } from 'react-router'
import { client, unwrapped, type RunHead } from '@/api'
import { day, DotStrip, Failure, setNumber, Unit } from '@/ui'
import { holding, median, sideBySide, type Years } from './years'

/** Every run there ever was, one practical's classes side by side. */
export function RecordPlace() {
  const [wanted, setWanted] = useState('')
  const shelf = useQuery({ queryKey: ['shelf'], queryFn: () => unwrapped(client.GET('/api/v1/shelf')) })
  if (shelf.isPending) return <p className="py-12 text-slate">Opening the record …</p>
  if (shelf.isError) return <Failure error={shelf.error} />
  const found = holding(shelf.data.runs, wanted, day)
  return (
    <div className="border-l border-copper pl-8">
      <h1 className="text-title">The record</h1>
      <p className="mb-4 text-slate">
        What every class found, each practical on one scale. No names appear here.
      </p>
      <label className="mb-6 flex flex-wrap items-baseline gap-3">
        <span className="text-note text-slate">find a run</span>
        <input
          type="search"
          className="field w-full max-w-80"
          placeholder="title, class, year"
          maxLength={80}
          value={wanted}
          onChange={(event) => {
            setWanted(event.target.value)
          }}
        />
      </label>
      {found.length === 0 && (
        <p className="border-y border-rule py-4 text-slate">
          {shelf.data.runs.length === 0 ? 'No class has run yet.' : `Nothing holds “${wanted}”.`}
        </p>
      )}
      {sideBySide(found).map((years) => (
        <SideBySide key={`${years.practical} ${years.finds}`} years={years} />
      ))}
    </div>
  )
}

function SideBySide({ years }: { years: Years }) {
  return (
    <section aria-label={years.title} className="mb-8">
      <h2 className="border-b border-ink pb-1 text-lead">{years.title}</h2>
      <p className="py-1 text-note text-slate">{years.finds}</p>
      <ul>
        {years.runs.map((run) => (
          <Year key={run.id} run={run} years={years} />
        ))}
      </ul>
    </section>
  )
}

function Year({ run, years }: { run: RunHead; years: Years }) {
  const found = median(run.values)
  const shown = (v: number) => setNumber(Number(v.toPrecision(3)).toString())
  return (
    <li className="grid items-center gap-x-8 gap-y-1 border-b border-rule py-2 tablet:grid-cols-[minmax(0,16rem)_minmax(0,1fr)_12rem]">
      <p>
        <Link to={`/record/${run.id}`} className="text-copper-text underline underline-offset-4">
          {run.class}
        </Link>
        <span className="block text-note text-slate">
          {day(run.opened_at)} {new Date(run.opened_at).getFullYear()}, version {run.version}
          {run.closed_at == null && ', under way'}
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
      </p>
    </li>
  )
}
