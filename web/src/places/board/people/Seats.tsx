import { Link } from 'react-router'
import { client, unwrapped, type PeopleView, type PersonView } from '@/api'
import { Failure } from '@/ui'
import { usePeopleAction } from './usePeople'

/** Who is at which bench from this lesson on; who is absent; whom nobody has placed yet. */
export function Seats({ run, classId, view }: { run: number; classId: number; view: PeopleView }) {
  const seat = usePeopleAction(run, (body: { visit: number; person: number; group: number | null }) =>
    unwrapped(client.PUT('/api/v1/runs/{run}/seats', { params: { path: { run } }, body })),
  )
  const at = (person: PersonView) => view.seats[String(person.id)]
  const benches = view.groups.filter((g) => g.merged_into == null)
  const unplaced = view.people.filter((p) => at(p) === undefined)
  const absent = view.people.filter((p) => at(p) === null)
  const line = (p: PersonView) => (
    <Person
      key={p.id}
      person={p}
      at={at(p)}
      view={view}
      busy={seat.isPending}
      onSeat={(group) => {
        seat.mutate({ visit: view.visit, person: p.id, group })
      }}
    />
  )
  return (
    <section aria-labelledby="seats">
      <h2 id="seats" className="mb-2 text-body">
        who is where{view.visits.length > 1 && `, from lesson ${view.visit} on`}
      </h2>
      {view.people.length === 0 && (
        <p className="border-t border-rule py-3 text-slate">
          This class has no roster.{' '}
          <Link to={`/shelf/classes/${classId}`} className="text-copper-text underline underline-offset-4">
            Put its people on it
          </Link>
          , then place them here; a run works without names as well.
        </p>
      )}
      {seat.isError && <Failure error={seat.error} />}
      <div className="grid gap-x-10 tablet:grid-cols-2">
        {view.people.length > 0 &&
          benches.map((g) => (
            <Bench key={g.id} name={g.name} empty="nobody">
              {view.people.filter((p) => at(p) === g.id).map(line)}
            </Bench>
          ))}
        {absent.length > 0 && <Bench name="absent">{absent.map(line)}</Bench>}
        {unplaced.length > 0 && <Bench name="not placed yet">{unplaced.map(line)}</Bench>}
      </div>
    </section>
  )
}

function Bench({ name, empty, children }: { name: string; empty?: string; children: React.ReactNode[] }) {
  return (
    <div className="border-t border-rule py-2">
      <h3 className="text-body font-semibold">{name}</h3>
      {children.length === 0 ? <p className="text-note text-slate">{empty}</p> : <ul>{children}</ul>}
    </div>
  )
}

function Person({
  person,
  at,
  view,
  busy,
  onSeat,
}: {
  person: PersonView
  at: number | null | undefined
  view: PeopleView
  busy: boolean
  onSeat: (group: number | null) => void
}) {
  return (
    <li className="flex items-baseline justify-between gap-3">
      {person.name}
      <select
        aria-label={`${person.name} is at`}
        className="min-h-8 border-b border-rule bg-transparent text-note text-slate"
        value={at === undefined ? '' : String(at ?? 'absent')}
        disabled={busy}
        onChange={(event) => {
          const to = event.target.value
          onSeat(to === 'absent' ? null : Number(to))
        }}
      >
        {at === undefined && <option value="">not placed</option>}
        {view.groups
          .filter((g) => g.merged_into == null || g.id === at)
          .map((g) => (
            <option key={g.id} value={g.id}>
              {g.name}
            </option>
          ))}
        <option value="absent">absent</option>
      </select>
    </li>
  )
}
