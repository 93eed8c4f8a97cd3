import { useState } from 'react'
import { Link } from 'react-router'
import type { BenchView, EntryBody } from '@/api'
import { Otherwise } from './step/Otherwise'
import type { BenchNow } from './standing'

/** One tap from any step: all readings, something that went otherwise, a call for help. */
export function BenchBar({
  view,
  now,
  step,
  onEnter,
}: {
  view: BenchView
  now: BenchNow
  step: number | null
  onEnter: (entry: EntryBody) => void
}) {
  const [open, setOpen] = useState(false)
  const calls = now.help !== null
  const key = 'min-h-14 grow px-2 text-body underline-offset-4'
  return (
    <div className="border-t border-rule">
      {open && step !== null && (
        <div className="pt-3">
          <Otherwise
            view={view}
            now={now}
            step={step}
            onEnter={(entry) => {
              onEnter(entry)
              setOpen(false)
            }}
          />
        </div>
      )}
      <div className="flex justify-between">
        {step !== null && (
          <Link to="/bench/sheet" className={`${key} flex items-center underline`}>
            All readings
          </Link>
        )}
        {step !== null && !view.closed && (
          <button
            type="button"
            aria-expanded={open}
            className={`${key} underline`}
            onClick={() => {
              setOpen(!open)
            }}
          >
            {open ? 'Cancel' : 'Something went wrong'}
          </button>
        )}
        {!view.closed && (
          <button
            type="button"
            aria-pressed={calls}
            className={`${key} ${calls ? 'border-l-4 border-amber font-semibold text-amber-text' : 'underline'}`}
            onClick={() => {
              onEnter({ kind: 'help', wanted: !calls, about: step === null ? '' : `step ${step + 1}` })
            }}
          >
            {calls ? 'Help is called: cancel' : 'Call for help'}
          </button>
        )}
      </div>
    </div>
  )
}
