import { useQuery } from '@tanstack/react-query'
import { Link } from 'react-router'
import { client, unwrapped, type RunHead } from '@/api'
import { day, Failure, sameDay } from '@/ui'
import { Begin } from './Begin'
import { Drafts } from './Drafts'
import { Library } from './Library'
import { NamesDue } from './NamesDue'
import { Reminders } from './Reminders'
import { RunLine } from './RunLine'

/** What runs, and the library. */
export function ShelfPlace() {
  const shelf = useQuery({
    queryKey: ['shelf'],
    queryFn: () => unwrapped(client.GET('/api/v1/shelf')),
    refetchInterval: 15_000,
  })
  if (shelf.isPending) return <p className="py-12 text-slate">Looking along the shelf …</p>
  if (shelf.isError) return <Failure error={shelf.error} />
  const { practicals, drafts, now } = shelf.data
  const runs = shelf.data.runs.filter((r) => r.archived_at == null)
  const open = runs.filter((r) => r.closed_at == null)
  const closed = runs.filter((r) => r.closed_at != null)
  return (
    <div className="border-l border-copper pl-8">
      <h1 className="text-title">{greeting(open, now)}</h1>
      <p className="mb-6 flex flex-wrap gap-x-6 text-slate">
        {day(now)}
        <Link to="/shelf/classes" className="text-copper-text underline underline-offset-4">
          classes and people
        </Link>
        <Link to="/shelf/begin" className="text-copper-text underline underline-offset-4">
          a new practical
        </Link>
        <a href="#library" className="text-copper-text underline underline-offset-4">
          the library
        </a>
      </p>
      <NamesDue now={now} />
      <Reminders runs={open} now={now} />
      <section aria-labelledby="running" className="mb-10">
        <h2 id="running" className="mb-2 text-body">
          running
        </h2>
        {open.length === 0 ? (
          <p className="border-y border-rule py-4 text-slate">
            Nothing runs. Make a class under classes and people, then open a practical below and start a run
            with it.
          </p>
        ) : (
          open.map((run) => <RunLine key={run.id} run={run} now={now} />)
        )}
      </section>
      {closed.length > 0 && (
        <section aria-labelledby="closed" className="mb-10">
          <h2 id="closed" className="mb-2 text-body">
            closed
          </h2>
          {closed.map((run) => (
            <RunLine key={run.id} run={run} now={now} />
          ))}
        </section>
      )}
      <Drafts drafts={drafts} />
      <Library practicals={practicals} runs={shelf.data.runs} />
      <Begin practicals={practicals} />
    </div>
  )
}

function greeting(open: readonly RunHead[], now: number): string {
  if (open.length === 0) return 'The shelf'
  const today = open.filter((r) => sameDay(r.opened_at, now)).length
  const older = open.length - today
  if (today === 0) return older === 1 ? 'One class is under way' : `${older} classes are under way`
  return today === 1 ? 'One class began today' : `${today} classes began today`
}
