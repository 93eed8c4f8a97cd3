import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link, useNavigate } from 'react-router'
import { client, unwrapped, type Clash, type PrepareLine, type PrepareWeek } from '@/api'
import { clashWords, offWords } from '@/words'
import { clockTime, day, Failure, sameDay } from '@/ui'
import { amount } from './amount'
import { batches } from './batches'
import { USUAL_GROUPS } from './usePreparation'

/** What comes: what is to be made, for which lesson, and how much of it is ready. */
export function PreparePlace() {
  const week = useQuery({
    queryKey: ['prepare'],
    queryFn: () => unwrapped(client.GET('/api/v1/prepare')),
    refetchInterval: 15_000,
  })
  if (week.isPending) return <p className="py-12 text-slate">Opening the prep room …</p>
  if (week.isError) return <Failure error={week.error} />
  const { runs, clashes, practicals, now } = week.data
  return (
    <div className="border-l border-copper pl-4 tablet:pl-8">
      <h1 className="text-title">To prepare</h1>
      <p className="mb-6 flex gap-6 text-slate">
        {day(now)}
        <Link to="/prepare/stock" className="text-copper-text underline underline-offset-4">
          stock
        </Link>
        <Link to="/prepare/calendar" className="text-copper-text underline underline-offset-4">
          calendar
        </Link>
      </p>
      {runs.length === 0 && (
        <p className="border-y border-rule py-4 text-slate">
          No class has a lesson to come. Open a run on the shelf, or prepare as if below.
        </p>
      )}
      <Clashes of={clashes} runs={runs} />
      <Batches of={runs} />
      {runs.map((run) => (
        <Line key={run.run} of={run} now={now} />
      ))}
      <AsIf practicals={practicals} />
    </div>
  )
}

/** What two classes want at once. */
function Clashes({ of, runs }: { of: readonly Clash[]; runs: readonly PrepareLine[] }) {
  if (of.length === 0) return null
  // The other class may be a colleague's.
  const called = (id: number) => runs.find((r) => r.run === id)?.class ?? 'another class'
  return (
    <ul aria-label="at the same time" className="mb-6 border-l-3 border-amber pl-3 text-amber-text">
      {of.map((clash) => (
        <li key={`${clash.resource} ${clash.runs.join(' ')} ${clash.from}`}>{clashWords(clash, called)}</li>
      ))}
    </ul>
  )
}

/** What is made once for several classes. */
function Batches({ of }: { of: readonly PrepareLine[] }) {
  const all = batches(of)
  if (all.length === 0) return null
  return (
    <ul aria-label="in one batch" className="mb-6 border-l-3 border-copper pl-3">
      {all.map((b) => (
        <li key={`${b.name} ${b.form}`}>
          <Link
            to={`/prepare/${b.run}/solutions/${b.symbol}?make=${b.provide}`}
            className="inline-block min-h-6 underline decoration-rule underline-offset-4 hover:decoration-copper"
          >
            <span className="font-semibold">{amount(b.provide, 'mL')}</span> {b.name}, {b.form}, in one batch
          </Link>{' '}
          <span className="text-slate">
            {b.classes.map((c) => `${amount(c.provide, 'mL')} for ${c.name}`).join(', ')}
          </span>
        </li>
      ))}
    </ul>
  )
}

function Line({ of, now }: { of: PrepareLine; now: number }) {
  const late = of.next != null && of.next.begins_at <= now && of.ready < of.all
  const open = of.solutions.filter((s) => !s.ready)
  return (
    <article className="grid gap-x-10 gap-y-2 border-t border-rule py-4 last-of-type:border-b tablet:grid-cols-[8rem_minmax(0,1.2fr)_minmax(0,1fr)_8rem]">
      <p className={late ? 'font-semibold text-amber-text' : ''}>
        <When of={of} now={now} />
      </p>
      <div>
        <h2 className="text-lead">
          <Link
            to={`/prepare/${of.run}`}
            className="underline decoration-rule underline-offset-4 hover:decoration-copper"
          >
            {of.title}
          </Link>
        </h2>
        <p className="text-slate">
          {of.class} · {of.groups} groups
        </p>
        {of.next != null &&
          offWords([of.next]).map((words) => (
            <p key={words} className="text-amber-text">
              {words}
            </p>
          ))}
        {of.too_long > 0 && (
          <p className="text-amber-text">
            <Link
              className="inline-block min-h-6 underline underline-offset-4"
              to={`/prepare/${of.run}/time`}
            >
              does not fit the lesson
            </Link>
          </p>
        )}
      </div>
      <ul>
        {open.map((s) => (
          <li key={s.symbol}>
            <Link
              to={`/prepare/${of.run}/solutions/${s.symbol}`}
              className="inline-block min-h-6 underline decoration-rule underline-offset-4 hover:decoration-copper"
            >
              <span className="font-semibold">{amount(s.provide, 'mL')}</span> {s.name}, {s.form}
            </Link>
          </li>
        ))}
        {open.length === 0 && (
          <li className="text-slate">
            {of.solutions.length > 0 ? 'all solutions made' : 'no solutions to make'}
          </li>
        )}
      </ul>
      <Ready ready={of.ready} all={of.all} />
    </article>
  )
}

function When({ of: { next }, now }: { of: PrepareLine; now: number }) {
  if (next == null) return <span className="text-slate">no lesson planned</span>
  if (next.begins_at <= now) return <>since {clockTime(next.begins_at)}</>
  return (
    <>
      {sameDay(next.begins_at, now) ? 'today' : day(next.begins_at)}
      <br />
      <span className="font-mono text-lead">{clockTime(next.begins_at)}</span>
    </>
  )
}

/** What is ready on a graduated line: one tick a thing. */
function Ready({ ready, all }: { ready: number; all: number }) {
  const width = 120
  const x = (n: number) => 2 + (n / Math.max(1, all)) * (width - 4)
  return (
    <figure>
      <svg width={width} height={28} role="img" aria-label={`${ready} of ${all} things ready`}>
        <path d={`M2 14H${x(ready)}`} className="stroke-copper" strokeWidth="4" />
        {Array.from({ length: all + 1 }, (_, n) => (
          <path key={n} d={`M${x(n)} 18v${n % 5 === 0 ? 8 : 4}`} className="stroke-pencil" />
        ))}
      </svg>
      <figcaption className="text-note text-slate">
        {ready} of {all} ready
      </figcaption>
    </figure>
  )
}

/** A practical that no run needs yet. */
function AsIf({ practicals }: { practicals: PrepareWeek['practicals'] }) {
  const [practical, setPractical] = useState(practicals[0]?.id ?? '')
  const [groups, setGroups] = useState(String(USUAL_GROUPS))
  const navigate = useNavigate()
  return (
    <form
      aria-label="as if"
      className="mt-10 flex flex-wrap items-end gap-4"
      onSubmit={(event) => {
        event.preventDefault()
        void navigate(`/prepare/as-if/${practical}?groups=${groups}`)
      }}
    >
      <label className="flex min-w-0 max-w-full flex-col gap-1">
        <span className="text-note text-slate">without a class</span>
        <select
          className="field w-full max-w-[30rem]"
          value={practical}
          onChange={(event) => {
            setPractical(event.target.value)
          }}
        >
          {practicals.map((p) => (
            <option key={p.id} value={p.id}>
              {p.title}
            </option>
          ))}
        </select>
      </label>
      <label className="flex flex-col gap-1">
        <span className="text-note text-slate">groups</span>
        <input
          className="field w-20"
          inputMode="numeric"
          value={groups}
          onChange={(event) => {
            setGroups(event.target.value)
          }}
        />
      </label>
      <button type="submit" className="action">
        Prepare as if
      </button>
    </form>
  )
}
