import { useState } from 'react'
import { Failure } from './Failure'
import { focused } from './focused'

/** Something short that is typed in its place, after a press that asks for it: a name, another passphrase. */
export function InPlace({
  ask,
  label,
  told,
  value,
  least = 1,
  most,
  act,
  pending,
  error,
  onAct,
}: {
  /** What the press says: `rename`. */
  ask: string
  /** What is typed, for whoever does not see what it stands beside: `rename 11-Slate`. */
  label: string
  /** The same above the field, where that has to be seen. */
  told?: string
  value: string
  /** Fewest characters. */
  least?: number
  most: number
  act: string
  pending: boolean
  error: Error | null
  onAct: (typed: string, done: () => void) => void
}) {
  const [typed, setTyped] = useState<string | null>(null)
  if (typed === null) {
    return (
      <button
        type="button"
        aria-label={label}
        className="quiet"
        onClick={() => {
          setTyped(value)
        }}
      >
        {ask}
      </button>
    )
  }
  return (
    <form
      className="flex flex-wrap items-end gap-x-4 gap-y-1 text-note"
      onSubmit={(event) => {
        event.preventDefault()
        onAct(typed, () => {
          setTyped(null)
        })
      }}
    >
      <label className="w-full max-w-72 text-slate">
        {told !== undefined && <span className="block">{told}</span>}
        <input
          ref={focused}
          aria-label={label}
          autoComplete="off"
          className="field w-full text-body text-ink"
          value={typed}
          maxLength={most}
          onChange={(event) => {
            setTyped(event.target.value)
          }}
          onKeyDown={(event) => {
            if (event.key === 'Escape') setTyped(null)
          }}
        />
      </label>
      <button type="submit" className="action" disabled={pending || typed.trim().length < least}>
        {act}
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
      {error && <Failure error={error} />}
    </form>
  )
}
