import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { useNavigate } from 'react-router'
import { client, unwrapped, type ClassView, type OpenRun, type PracticalFile } from '@/api'
import { Failure, Lessons, lessonsOf, type Lesson, Tick } from '@/ui'
import { MINERALS, named, shuffled, type Group } from './groups'

/** Starts a run of this practical with a class. */
export function StartRun({
  practical,
  draft,
  file,
}: {
  practical: string
  draft: boolean
  file: PracticalFile | null
}) {
  const classes = useQuery({ queryKey: ['classes'], queryFn: () => unwrapped(client.GET('/api/v1/classes')) })
  const [className, setClassName] = useState('')
  const [names, setNames] = useState(MINERALS.slice(0, 8).join(', '))
  const [groups, setGroups] = useState<readonly Group[]>([])
  const [chosen, setLessons] = useState<readonly Lesson[] | null>(null)
  // By the server's clock, which may be set to another day.
  const lessons = chosen ?? (classes.data ? lessonsOf(file?.visits ?? 1, classes.data.now) : [])
  const [photos, setPhotos] = useState(false)
  const [deal, setDeal] = useState<NonNullable<OpenRun['deal']> | null>(null)
  const known = classes.data?.classes.find((k) => k.name === className.trim())
  const called = named(names, groups)
  const navigate = useNavigate()
  const queries = useQueryClient()
  const start = useMutation({
    mutationFn: () =>
      unwrapped(
        client.POST('/api/v1/runs', {
          body: {
            practical,
            class: className,
            class_id: known?.id ?? null,
            groups: called.map((g) => ({ name: g.name, people: known ? g.people : [] })),
            visits: lessons.map((l) => ({
              begins_at: new Date(l.begins).getTime(),
              minutes: l.minutes,
            })),
            photos,
            deal,
          },
        }),
      ),
    onSuccess: async (run) => {
      await queries.invalidateQueries({ queryKey: ['shelf'] })
      await navigate(`/board/${run.id}`)
    },
  })
  const differ = (file?.assignments?.length ?? 0) > 0 || (file?.unknowns?.length ?? 0) > 0
  return (
    <form
      className="mt-8 border-t border-copper pt-4 print:hidden"
      onSubmit={(event) => {
        event.preventDefault()
        start.mutate()
      }}
    >
      <h2 className="mb-3 text-body">start a run</h2>
      {draft && (
        <p className="mb-3 text-note text-slate">With the version last published, not with the draft.</p>
      )}
      <label className="mb-3 block">
        <span className="mb-1 block text-note text-slate">class</span>
        <input
          className="field w-full"
          value={className}
          maxLength={40}
          list="classes"
          onChange={(event) => {
            setClassName(event.target.value)
            setGroups([])
          }}
        />
        <datalist id="classes">
          {classes.data?.classes.map((k) => (
            <option key={k.id} value={k.name} />
          ))}
        </datalist>
      </label>
      <label className="mb-3 block">
        <span className="mb-1 block text-note text-slate">groups, in bench order ({called.length})</span>
        <textarea
          className="field w-full text-note"
          rows={3}
          value={names}
          maxLength={2000}
          onChange={(event) => {
            setNames(event.target.value)
          }}
        />
      </label>
      <Counts
        count={called.length}
        onCount={(n) => {
          setNames(MINERALS.slice(0, n).join(', '))
        }}
      />
      {known && known.people.length > 0 && (
        <Dealt
          of={known}
          groups={called}
          onShuffle={() => {
            const people = known.people.map((p) => p.id)
            setGroups(
              shuffled(
                people,
                called.map((g) => g.name),
                Math.random,
              ),
            )
          }}
        />
      )}
      <Lessons lessons={lessons} onChange={setLessons} />
      {differ && (
        <label className="mb-3 block text-note text-slate">
          <span className="mb-1 block">
            {(file?.assignments?.length ?? 0) > 0 ? 'assignments' : 'unknowns'} are given out
          </span>
          <select
            className="field w-full text-body text-ink"
            value={deal ?? ''}
            onChange={(event) => {
              setDeal((event.target.value || null) as typeof deal)
            }}
          >
            <option value="">not yet</option>
            <option value="in-turn">in turn along the benches</option>
            <option value="by-lot">at random, each as often</option>
          </select>
        </label>
      )}
      <Tick ticked={photos} onTick={setPhotos} className="mb-3 text-note">
        photos may be taken at the benches
      </Tick>
      {start.isError && <Failure error={start.error}>Nothing was started.</Failure>}
      <button
        type="submit"
        className="action"
        disabled={start.isPending || className.trim() === '' || called.length === 0}
      >
        {start.isPending ? 'Starting …' : `Start with ${called.length} groups`}
      </button>
    </form>
  )
}

/** The people of the class over the groups, by lot; single ones are moved on the run's own page. */
function Dealt({
  of,
  groups,
  onShuffle,
}: {
  of: ClassView
  groups: readonly Group[]
  onShuffle: () => void
}) {
  const seated = groups.flatMap((g) => g.people).length
  const name = (id: number) => of.people.find((p) => p.id === id)?.name ?? ''
  return (
    <div className="mb-3 text-note">
      <button
        type="button"
        className="min-h-6 text-copper-text underline underline-offset-4"
        disabled={groups.length === 0}
        onClick={onShuffle}
      >
        {seated === 0 ? `deal ${of.people.length} people out at random` : 'deal again'}
      </button>
      {seated > 0 && (
        <ul className="mt-1">
          {groups.map((g) => (
            <li key={g.name} className="text-slate">
              <b className="font-semibold text-ink">{g.name}</b> {g.people.map(name).join(', ')}
            </li>
          ))}
        </ul>
      )}
    </div>
  )
}

function Counts({ count, onCount }: { count: number; onCount: (count: number) => void }) {
  return (
    <p className="mb-3 flex gap-3 text-note text-slate">
      minerals:
      {[4, 6, 8, 10, 12].map((n) => (
        <button
          key={n}
          type="button"
          aria-pressed={n === count}
          className="min-h-6 min-w-6 font-mono underline decoration-rule underline-offset-4 hover:text-ink aria-pressed:font-semibold aria-pressed:text-ink"
          onClick={() => {
            onCount(n)
          }}
        >
          {n}
        </button>
      ))}
    </p>
  )
}
