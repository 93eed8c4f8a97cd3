import { useState } from 'react'
import { Link, useLocation } from 'react-router'
import { client, unwrapped, type ClassView, type PersonView } from '@/api'
import { AskOnce, Failure, focused, InPlace } from '@/ui'
import { useClassAction } from './useClasses'

/** Longest file that is read: the server tells what is wrong with a list that is too long. */
const MOST_BYTES = 3_000_000

/** Who is in a class; more are typed, pasted or read from a file, and one can be erased. */
export function Roster({ of, mine }: { of: ClassView; mine: boolean }) {
  return (
    <section aria-labelledby="roster">
      <h3 id="roster" className="mb-2 text-body">
        roster
      </h3>
      {of.people.length === 0 ? (
        <p className="border-t border-rule py-3 text-slate">Nobody is on it yet.</p>
      ) : (
        <ol className="columns-2 gap-8 border-t border-rule pt-1">
          {of.people.map((person) => (
            <Member key={person.id} of={of} person={person} mine={mine} />
          ))}
        </ol>
      )}
      <Enrol of={of} />
    </section>
  )
}

/** A person: a name to correct, a record to look at, and erasing, which is for good. */
function Member({ of, person, mine }: { of: ClassView; person: PersonView; mine: boolean }) {
  const path = { class: of.id, person: person.id }
  const erase = useClassAction(() =>
    unwrapped(client.DELETE('/api/v1/classes/{class}/people/{person}', { params: { path } })),
  )
  const rename = useClassAction((name: string) =>
    unwrapped(
      client.PUT('/api/v1/classes/{class}/people/{person}/name', { params: { path }, body: { name } }),
    ),
  )
  return (
    <li className="flex break-inside-avoid flex-wrap items-baseline justify-between gap-x-4 py-0.5">
      <Link
        to={`/record/people/${person.id}`}
        className="underline decoration-rule underline-offset-4 hover:decoration-copper"
      >
        {person.name}
      </Link>
      <span className="flex flex-wrap items-baseline gap-x-4">
        <InPlace
          ask="rename"
          label={`rename ${person.name}`}
          value={person.name}
          most={80}
          act="Save"
          pending={rename.isPending}
          error={rename.error}
          onAct={(name, done) => {
            rename.mutate(name, { onSuccess: done })
          }}
        />
        {mine && (
          <AskOnce
            ask="erase"
            label={`erase ${person.name}`}
            keep={`keep ${person.name}`}
            act={`Erase ${person.name}`}
            pending={erase.isPending}
            error={erase.error}
            onAct={() => {
              erase.mutate(undefined)
            }}
          >
            The name, every seat, and what {person.name} entered as a person are deleted for good. What the
            group entered together stays, and the record still verifies.
          </AskOnce>
        )}
      </span>
    </li>
  )
}

function Enrol({ of }: { of: ClassView }) {
  const [text, setText] = useState('')
  const [refused, setRefused] = useState<string | null>(null)
  const enrol = useClassAction((list: string) =>
    unwrapped(
      client.POST('/api/v1/classes/{class}/people', {
        params: { path: { class: of.id } },
        body: { text: list },
      }),
    ),
  )
  const send = (list: string) => {
    setRefused(null)
    enrol.mutate(list, {
      onSuccess: () => {
        setText('')
      },
    })
  }
  const justMade = (useLocation().state as { justMade?: boolean } | null)?.justMade === true
  const read = async (file: File | undefined) => {
    if (!file) return
    if (file.size > MOST_BYTES) {
      setRefused(
        `“${file.name}” is no roster: it has ${file.size.toLocaleString('en')} bytes. Nobody was put on it.`,
      )
      return
    }
    send(await file.text())
  }
  return (
    <form
      className="mt-5 border-t border-rule pt-3"
      onSubmit={(event) => {
        event.preventDefault()
        send(text)
      }}
    >
      <label className="block text-note text-slate">
        <span className="mb-0.5 block">
          more people: one a line, or pasted from a spreadsheet; the columns “first name” and “last name” are
          known
        </span>
        <textarea
          // The next thing to do with a class that was just made.
          ref={justMade ? focused : undefined}
          className="field w-full text-body"
          rows={4}
          value={text}
          onChange={(event) => {
            setText(event.target.value)
          }}
        />
      </label>
      <div className="mt-2 flex flex-wrap items-end justify-between gap-x-6 gap-y-2">
        <button type="submit" className="action" disabled={text.trim() === '' || enrol.isPending}>
          Put them on the roster
        </button>
        <label className="text-note text-slate">
          <span className="mb-0.5 block">or from a file, CSV or text</span>
          <input
            type="file"
            accept=".csv,.txt,.tsv,text/plain,text/csv"
            className="field w-64"
            onChange={(event) => {
              void read(event.target.files?.[0])
              event.target.value = ''
            }}
          />
        </label>
      </div>
      {refused !== null && <Failure error={new Error(refused)} />}
      {enrol.isError && <Failure error={enrol.error} />}
      {enrol.isSuccess && (
        <p role="status" className="mt-2 text-note text-teal">
          {enrol.data.added} put on the roster
          {enrol.data.known.length > 0 &&
            `; already in the class: ${enrol.data.known.slice(0, 12).join(', ')}`}
          .
        </p>
      )}
    </form>
  )
}
