import { useState, type ReactNode } from 'react'
import { Failure } from './Failure'

/** Something that cannot be undone: it is asked once more, in its place, with what it does. */
export function AskOnce({
  ask,
  keep,
  act,
  label = ask,
  pending,
  error,
  onAct,
  children,
}: {
  /** What the first press says: `delete`. */
  ask: string
  /** What the same press says once it asks: `keep it`. */
  keep: string
  /** What the second press says: `Delete this run`. */
  act: string
  /** The first press for whoever does not see what it stands beside. */
  label?: string
  pending: boolean
  error: Error | null
  onAct: (done: () => void) => void
  /** What it does. */
  children: ReactNode
}) {
  const [asked, setAsked] = useState(false)
  return (
    <span className="block">
      <button
        type="button"
        aria-expanded={asked}
        aria-label={asked ? keep : label}
        className="quiet"
        onClick={() => {
          setAsked(!asked)
        }}
      >
        {asked ? keep : ask}
      </button>
      {asked && (
        <span className="block border-l-3 border-magenta py-1 pl-2 text-note">
          {children}{' '}
          <button
            type="button"
            className="min-h-6 font-semibold text-magenta underline underline-offset-4"
            disabled={pending}
            onClick={() => {
              onAct(() => {
                setAsked(false)
              })
            }}
          >
            {act}
          </button>
        </span>
      )}
      {error && <Failure error={error} />}
    </span>
  )
}
