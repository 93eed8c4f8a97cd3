import { useState } from 'react'
import { Link } from 'react-router'
import { client, unwrapped, type Afterwards } from '@/api'
import { day, Failure, focused, Part } from '@/ui'
import { useSaying } from './useAfterwards'

/** What the next class is to know, and what earlier ones have left. */
export function NextTime({ run, after }: { run: number; after: Afterwards }) {
  const note = after.next_time
  const [typed, setTyped] = useState<string | null>(null)
  const save = useSaying(run, (text: string) =>
    unwrapped(client.PUT('/api/v1/runs/{run}/next-time', { params: { path: { run } }, body: { text } })),
  )
  return (
    <Part title="for next time">
      {typed === null ? (
        <>
          {note ? (
            <p className="whitespace-pre-line">
              {note.text}
              <span className="block text-note text-slate">
                {note.by}, {day(note.at)}
              </span>
            </p>
          ) : (
            <p className="text-slate print:hidden">
              What ran out, what took longer, what you would do differently.
            </p>
          )}
          <button
            type="button"
            className="mt-1 min-h-6 text-note text-copper-text underline underline-offset-4 print:hidden"
            onClick={() => {
              setTyped(note?.text ?? '')
            }}
          >
            {note ? 'edit the note' : 'write a note'}
          </button>
        </>
      ) : (
        <form
          onSubmit={(event) => {
            event.preventDefault()
            save.mutate(typed, {
              onSuccess: () => {
                setTyped(null)
              },
            })
          }}
        >
          <textarea
            ref={focused}
            aria-label="note for next time"
            className="field w-full text-body"
            rows={4}
            maxLength={2000}
            value={typed}
            onChange={(event) => {
              setTyped(event.target.value)
            }}
          />
          <div className="mt-1 flex items-baseline gap-5">
            <button type="submit" className="action" disabled={save.isPending}>
              Save
            </button>
            <button
              type="button"
              className="quiet"
              onClick={() => {
                setTyped(null)
              }}
            >
              Cancel
            </button>
          </div>
          {save.isError && <Failure error={save.error}>What you typed is still here.</Failure>}
        </form>
      )}
      {after.earlier.length > 0 && (
        <ul
          aria-label="notes of earlier classes"
          className="mt-3 border-t border-rule pt-2 text-note print:hidden"
        >
          {after.earlier.map((n) => (
            <li key={n.run} className="mb-1 whitespace-pre-line">
              <Link to={`/record/${n.run}`} className="text-copper-text underline underline-offset-4">
                {n.class}
              </Link>
              <span className="text-slate">, {day(n.at)}: </span>
              {n.text}
            </li>
          ))}
        </ul>
      )}
    </Part>
  )
}
