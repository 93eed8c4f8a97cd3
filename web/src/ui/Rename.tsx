import { useState } from 'react'
import { Failure } from './Failure'

/** A name that can be corrected in its place. */
export function Rename({
  label,
  name,
  most,
  optional = false,
  pending,
  error,
  onSave,
}: {
  /** What is renamed, for whoever does not see it: `rename 11-Slate`. */
  label: string
  name: string
  most: number
  /** It may be left empty. */
  optional?: boolean
  pending: boolean
  error: Error | null
  onSave: (name: string, done: () => void) => void
}) {
  const [typed, setTyped] = useState<string | null>(null)
  if (typed === null) {
    return (
      <button
        type="button"
        aria-label={label}
        className="min-h-6 text-note text-slate underline decoration-rule underline-offset-4 hover:text-ink"
        onClick={() => {
          setTyped(name)
        }}
      >
        rename
      </button>
    )
  }
  return (
    <form
      className="flex flex-wrap items-center gap-x-4 gap-y-1 text-note"
      onSubmit={(event) => {
        event.preventDefault()
        onSave(typed, () => {
          setTyped(null)
        })
      }}
    >
      <input
        ref={focused}
        aria-label={label}
        className="field w-full max-w-72 text-body"
        value={typed}
        maxLength={most}
        onChange={(event) => {
          setTyped(event.target.value)
        }}
        onKeyDown={(event) => {
          if (event.key === 'Escape') setTyped(null)
        }}
      />
      <button type="submit" className="action" disabled={pending || (!optional && typed.trim() === '')}>
        Save
      </button>
      <button
        type="button"
        className="min-h-6 text-slate underline underline-offset-4"
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

function focused(field: HTMLInputElement | null) {
  field?.focus()
}
