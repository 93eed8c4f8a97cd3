import type { PreparationView } from '@/api'
import { dayAndTime } from '@/ui'
import { usePreparing } from './usePreparation'

/** Ready or not. Nothing to tick where it is prepared as if. */
export function TickBox({ of, item, name }: { of: PreparationView; item: string; name: string }) {
  if (of.run == null) return <Blank />
  return <Tick of={of} run={of.run} item={item} name={name} />
}

function Tick({ of, run, item, name }: { of: PreparationView; run: number; item: string; name: string }) {
  const { tick } = usePreparing(run)
  const done = of.ticks.find((t) => t.item === item)
  return (
    <span className="inline-flex items-center gap-2">
      <button
        type="button"
        role="checkbox"
        aria-checked={done !== undefined}
        aria-label={`${name} is ready`}
        disabled={tick.isPending}
        className="grid min-h-11 min-w-11 place-items-center print:hidden"
        onClick={() => {
          tick.mutate({ item, done: done === undefined })
        }}
      >
        <svg viewBox="0 0 24 24" width="24" height="24" aria-hidden="true">
          <path d="M3 3v18h18V3" fill="none" className="stroke-ink" strokeWidth="2" />
          {done && <path d="M6 11q6 9 14 -8" fill="none" className="stroke-teal" strokeWidth="3" />}
        </svg>
      </button>
      <Blank printed />
      {tick.isError && (
        <span role="alert" className="text-note text-magenta">
          not kept: try again
        </span>
      )}
    </span>
  )
}

/** Who made something ready, and when; nothing where it is not. */
export function TickedBy({ of, item }: { of: PreparationView; item: string }) {
  const done = of.ticks.find((t) => t.item === item)
  if (done === undefined) return null
  return (
    <span className="text-note text-slate">
      {done.by}, {dayAndTime(done.at)}
    </span>
  )
}

/** A box to be ticked by hand. */
function Blank({ printed = false }: { printed?: boolean }) {
  return (
    <svg
      viewBox="0 0 24 24"
      width="20"
      height="20"
      aria-hidden="true"
      className={printed ? 'hidden print:inline' : 'inline'}
    >
      <path d="M3 3v18h18V3" fill="none" className="stroke-ink" strokeWidth="2" />
    </svg>
  )
}
