import { useState } from 'react'
import { Link, useParams } from 'react-router'
import { client, unwrapped, type Board, type PeopleView } from '@/api'
import { dayAndTime, Failure, WorkedBy } from '@/ui'
import { schoolWords } from '@/words'
import { useBoard } from '../useBoard'
import { Allotments } from './Allotments'
import { Benches } from './Benches'
import { LessonsForm } from './LessonsForm'
import { Seats } from './Seats'
import { usePeople, usePeopleAction } from './usePeople'

/** Who is at which bench, what each group was given, when the run is worked on. */
export function PeoplePlace() {
  const run = Number(useParams()['run'])
  const { board } = useBoard(run)
  const people = usePeople(run)
  if (board.isPending || people.isPending) return <p className="py-12 text-slate">Looking who is here …</p>
  if (board.isError) return <Failure error={board.error}>The shelf has the list of runs.</Failure>
  if (people.isError) return <Failure error={people.error} />
  return <People board={board.data} view={people.data} />
}

function People({ board, view }: { board: Board; view: PeopleView }) {
  const { run } = board
  const on = view.visits.find((v) => v.nr === view.visit)
  return (
    <div className="border-l border-copper pl-8">
      <p className="text-note">
        <Link to={`/board/${run.id}`} className="text-copper-text underline underline-offset-4">
          the board of {run.class}
        </Link>
      </p>
      <h1 className="text-title">People and lessons</h1>
      <p className="mb-5 text-slate">
        {run.title}, {run.class}
        {on && ` · lesson ${on.nr} of ${view.visits.length}, ${dayAndTime(on.begins_at)}`}
      </p>
      <div className="grid gap-x-12 gap-y-8 desk:grid-cols-[minmax(0,1fr)_18rem]">
        <div className="flex min-w-0 flex-col gap-9">
          <Seats run={run.id} classId={run.class_id} view={view} />
          <Allotments run={run.id} view={view} />
          <Benches run={run.id} view={view} />
        </div>
        <aside aria-label="lessons and more" className="flex flex-col gap-8 border-l border-copper pl-5">
          <LessonsForm run={run.id} visits={view.visits} now={board.now} />
          <LateGroup run={run.id} />
          <Merge run={run.id} view={view} />
          <TakingPhotos run={run.id} on={run.photos} />
          <WorkedBy words={schoolWords(run.school)} />
          <p className="text-note text-slate">
            Kept by this run: version {run.version} of the practical; relative atomic masses: {run.masses}.
            {run.closed_at != null &&
              ' Closed, it also keeps the room’s bottles and instruments as they were.'}
          </p>
        </aside>
      </div>
    </div>
  )
}

function LateGroup({ run }: { run: number }) {
  const [name, setName] = useState('')
  const add = usePeopleAction(run, (body: { name: string }) =>
    unwrapped(client.POST('/api/v1/runs/{run}/groups', { params: { path: { run } }, body })),
  )
  return (
    <form
      aria-labelledby="late"
      onSubmit={(event) => {
        event.preventDefault()
        add.mutate(
          { name },
          {
            onSuccess: () => {
              setName('')
            },
          },
        )
      }}
    >
      <h2 id="late" className="mb-1 text-note text-ink">
        a group that comes late
      </h2>
      <label className="block text-note text-slate">
        name
        <input
          className="field w-full text-body text-ink"
          value={name}
          maxLength={40}
          onChange={(event) => {
            setName(event.target.value)
          }}
        />
      </label>
      <button type="submit" className="action" disabled={name.trim() === '' || add.isPending}>
        Put it at the end
      </button>
      {add.isError && <Failure error={add.error} />}
    </form>
  )
}

/** Two groups at one bench: what the first has entered stays its own. */
function Merge({ run, view }: { run: number; view: PeopleView }) {
  const [group, setGroup] = useState('')
  const [into, setInto] = useState('')
  const merge = usePeopleAction(run, (what: { group: number; into: number }) =>
    unwrapped(
      client.POST('/api/v1/runs/{run}/groups/{group}/merge', {
        params: { path: { run, group: what.group } },
        body: { into: what.into },
      }),
    ),
  )
  const free = view.groups.filter((g) => g.merged_into == null)
  return (
    <form
      aria-labelledby="merge"
      onSubmit={(event) => {
        event.preventDefault()
        merge.mutate(
          { group: Number(group), into: Number(into) },
          {
            onSuccess: () => {
              setGroup('')
              setInto('')
            },
          },
        )
      }}
    >
      <h2 id="merge" className="mb-1 text-note text-ink">
        merge two groups
      </h2>
      <p className="mb-1 text-note text-slate">
        Its devices then show the other bench; what it has entered stays under its own name. This cannot be
        taken back.
      </p>
      <div className="flex gap-2">
        <Choose label="the group" value={group} groups={free} onChoose={setGroup} />
        <Choose
          label="goes on at"
          value={into}
          groups={free.filter((g) => String(g.id) !== group)}
          onChoose={setInto}
        />
      </div>
      <button type="submit" className="action" disabled={group === '' || into === '' || merge.isPending}>
        Merge
      </button>
      {merge.isError && <Failure error={merge.error} />}
    </form>
  )
}

function Choose({
  label,
  value,
  groups,
  onChoose,
}: {
  label: string
  value: string
  groups: PeopleView['groups']
  onChoose: (id: string) => void
}) {
  return (
    <label className="min-w-0 grow text-note text-slate">
      {label}
      <select
        className="field w-full text-body text-ink"
        value={value}
        onChange={(event) => {
          onChoose(event.target.value)
        }}
      >
        <option value="" />
        {groups.map((g) => (
          <option key={g.id} value={g.id}>
            {g.name}
          </option>
        ))}
      </select>
    </label>
  )
}

function TakingPhotos({ run, on }: { run: number; on: boolean }) {
  const set = usePeopleAction(run, (photos: boolean) =>
    unwrapped(client.PUT('/api/v1/runs/{run}/photos', { params: { path: { run } }, body: { photos } })),
  )
  return (
    <section aria-label="photos">
      <label className="flex min-h-8 items-center gap-2">
        <input
          type="checkbox"
          className="size-4 accent-copper"
          checked={on}
          disabled={set.isPending}
          onChange={(event) => {
            set.mutate(event.target.checked)
          }}
        />
        photos may be taken at the benches
      </label>
      <p className="text-note text-slate">
        Small, without place or time of the camera, deletable by the group and by you. Off unless you say so.
      </p>
      {set.isError && <Failure error={set.error} />}
    </section>
  )
}
