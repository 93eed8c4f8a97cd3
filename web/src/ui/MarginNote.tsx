import type { ReactNode } from 'react'

/** A side note on the margin leaf: a copper word first, then the consequence. */
export function MarginNote({ head, children }: { head: string; children: ReactNode }) {
  return (
    <p className="text-note text-slate">
      <b className="font-semibold text-copper-text">{head}</b> {children}
    </p>
  )
}
