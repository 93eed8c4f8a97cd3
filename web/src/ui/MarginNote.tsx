import type { ReactNode } from 'react'
import { Words } from './Quantity'

/** A side note on the margin leaf: a copper word first, then the consequence. */
export function MarginNote({ head, children }: { head: string; children: ReactNode }) {
  return (
    <p className="text-note text-slate">
      <b className="font-semibold text-copper-text">
        <Words of={head} />
      </b>{' '}
      {children}
    </p>
  )
}
