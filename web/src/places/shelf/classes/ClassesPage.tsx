import { useState } from 'react'
import { Link, NavLink, useNavigate, useParams } from 'react-router'
import { client, unwrapped, type ClassesView, type ClassView } from '@/api'
import { AskOnce, day, Failure, InPlace } from '@/ui'
import { Colleagues } from './Colleagues'
import { Keeping } from './Keeping'
import { Roster } from './Roster'
import { useClassAction, useClasses } from './useClasses'

/** Classes: who is in them, who may see them, how long the names are kept. */
export function ClassesPage() {
  const classes = useClasses()
  const { id } = useParams()
  if (classes.isPending) return <p className="py-12 text-slate">Looking for the classes …</p>
  if (classes.isError) return <Failure error={classes.error} />
  const open = classes.data.classes.find((k) => String(k.id) === id) ?? classes.data.classes[0]
  return (
    <div className="border-l border-copper pl-8">
      <p className="text-note">
        <Link to="/shelf" className="text-copper-text underline underline-offset-4">
          the shelf
        </Link>
      </p>
      <h1 className="mb-5 text-title">Classes</h1>
      <div className="grid gap-x-12 gap-y-8 desk:grid-cols-[15rem_minmax(0,1fr)]">
        <nav aria-label="classes" className="flex flex-col">
          {classes.data.classes.map((k) => (
            <ClassLink key={k.id} of={k} now={classes.data.now} open={k.id === open?.id} />
          ))}
          <NewClass />
        </nav>
        {open ? (
          <OneClass key={open.id} view={classes.data} of={open} />
        ) : (
          <p className="text-slate">
            No class yet. Name one at the left, then put its people on the roster: typed, pasted from a
            spreadsheet, or from a file.
          </p>
        )}
      </div>
    </div>
  )
}

function ClassLink({ of, now, open }: { of: ClassView; now: number; open: boolean }) {
  const over = of.people.length > 0 && of.keep_until != null && of.keep_until < now
  return (
    <NavLink
      to={`/shelf/classes/${of.id}`}
      className={`border-t border-rule py-2 pl-3 ${open ? 'border-l-3 border-l-copper bg-copper-wash' : 'border-l-3 border-l-transparent'}`}
    >
      <span className="block font-semibold">{of.name}</span>
      <span className={`text-note ${over ? 'text-amber-text' : 'text-slate'}`}>
        {over
          ? 'names are to be erased'
          : `${of.people.length} people · ${of.runs} ${of.runs === 1 ? 'run' : 'runs'}`}
      </span>
    </NavLink>
  )
}

function NewClass() {
  const [name, setName] = useState('')
  const navigate = useNavigate()
  const make = useClassAction((body: { name: string }) => unwrapped(client.POST('/api/v1/classes', { body })))
  return (
    <form
      className="border-t border-rule pt-4"
      onSubmit={(event) => {
        event.preventDefault()
        make.mutate(
          { name },
          {
            onSuccess: ({ id }) => {
              setName('')
              // Names that are pasted next belong to the new class.
              void navigate(`/shelf/classes/${id}`, { state: { justMade: true } })
            },
          },
        )
      }}
    >
      <label className="text-note text-slate">
        <span className="mb-0.5 block">a new class</span>
        <input
          className="field w-full"
          value={name}
          maxLength={40}
          onChange={(event) => {
            setName(event.target.value)
          }}
        />
      </label>
      <button type="submit" className="action mt-2" disabled={name.trim() === '' || make.isPending}>
        Create class
      </button>
      {make.isError && <Failure error={make.error} />}
    </form>
  )
}

function OneClass({ view, of }: { view: ClassesView; of: ClassView }) {
  const mine = of.owner.id === view.me
  const over = of.people.length > 0 && of.keep_until != null && of.keep_until < view.now
  return (
    <div>
      <h2 className="text-lead">{of.name}</h2>
      {mine && <OwnClass of={of} />}
      <p className="mb-4 text-slate">
        {mine ? 'yours' : `${of.owner.name}'s, shared with you`} · {of.people.length} people · {of.runs}{' '}
        {of.runs === 1 ? 'run' : 'runs'}
      </p>
      {over && (
        <p role="status" className="mb-5 border-l-4 border-amber pl-3 text-amber-text">
          These names were to be kept until {day(of.keep_until ?? 0)}. Erase them below, or say for how much
          longer they are needed.
        </p>
      )}
      <div className="grid gap-x-12 gap-y-8 desk:grid-cols-[minmax(0,1fr)_17rem]">
        <Roster of={of} mine={mine} />
        <aside aria-label="who may see it" className="flex flex-col gap-8 border-l border-copper pl-5">
          <Colleagues view={view} of={of} mine={mine} />
          <Keeping of={of} now={view.now} mine={mine} />
        </aside>
      </div>
    </div>
  )
}

/** What only its owner does: another name, and deleting one that was made by mistake. */
function OwnClass({ of }: { of: ClassView }) {
  const navigate = useNavigate()
  const path = { class: of.id }
  const rename = useClassAction((name: string) =>
    unwrapped(client.PUT('/api/v1/classes/{class}/name', { params: { path }, body: { name } })),
  )
  const remove = useClassAction(() =>
    unwrapped(client.DELETE('/api/v1/classes/{class}', { params: { path } })),
  )
  return (
    <div className="flex flex-wrap items-start gap-x-6">
      <InPlace
        ask="rename"
        label={`rename ${of.name}`}
        value={of.name}
        most={40}
        act="Save"
        pending={rename.isPending}
        error={rename.error}
        onAct={(name, done) => {
          rename.mutate(name, { onSuccess: done })
        }}
      />
      {of.people.length === 0 && of.runs === 0 && (
        <AskOnce
          ask="delete"
          label={`delete ${of.name}`}
          keep={`keep ${of.name}`}
          act={`Delete ${of.name}`}
          pending={remove.isPending}
          error={remove.error}
          onAct={() => {
            remove.mutate(undefined, { onSuccess: () => void navigate('/shelf/classes') })
          }}
        >
          It has no people and no runs: nothing else is lost.
        </AskOnce>
      )}
    </div>
  )
}
