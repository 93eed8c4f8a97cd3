import type { ReactNode } from 'react'
import { Link } from 'react-router'

/** The head of a page to practise on: what it is, which number, another one. */
export function PracticeHead({
  title,
  seed,
  onAnother,
  children,
}: {
  title: string
  seed: number
  onAnother: () => void
  children?: ReactNode
}) {
  return (
    <div className="mb-4 flex flex-wrap items-baseline gap-x-6 gap-y-1">
      <h1 className="text-lead font-semibold">{title}</h1>
      {children}
      <p className="ml-auto flex items-baseline gap-x-5 text-note text-slate">
        <span>
          No. <span className="font-mono">{seed}</span>
        </span>
        <button type="button" className="quiet" onClick={onAnother}>
          another one
        </button>
        <Link to="/practice" className="quiet">
          all practice
        </Link>
      </p>
    </div>
  )
}
