import { Link } from 'react-router'
import type { BenchView } from '@/api'
import { isLeftOut, type BenchNow } from '../standing'

/** The rail at the left edge: one tick a step, the last one for the whole sheet. */
export function TickRail({ view, now, at }: { view: BenchView; now: BenchNow; at: number | null }) {
  return (
    <nav aria-label="steps" className="fixed inset-y-0 left-0 flex w-12 flex-col">
      {view.steps.map((step, i) => (
        <Tick
          key={i}
          to={`/bench/${i + 1}`}
          here={at === i}
          done={now.done.has(i)}
          label={`step ${i + 1}: ${step.title}${isLeftOut(step, now) ? ', left out' : now.done.has(i) ? ', done' : ''}`}
        />
      ))}
      <Tick to="/bench/sheet" here={at === null} done={false} label="all that you entered" end />
    </nav>
  )
}

function Tick({
  to,
  here,
  done,
  label,
  end = false,
}: {
  to: string
  here: boolean
  done: boolean
  label: string
  end?: boolean
}) {
  const tone = here ? 'stroke-copper' : done ? 'stroke-teal' : 'stroke-pencil'
  const length = here ? 34 : done ? 22 : 12
  return (
    <Link
      to={to}
      aria-label={label}
      aria-current={here ? 'step' : undefined}
      className="flex min-h-11 flex-1 items-center hover:bg-copper-wash"
    >
      <svg aria-hidden="true" width="40" height="12" viewBox="0 0 40 12">
        <path d={`M0 6H${length}`} className={tone} strokeWidth={here ? 3.5 : 2} />
        {end && <path d={`M0 1H${length}M0 11H${length}`} className={tone} strokeWidth={1.5} />}
      </svg>
    </Link>
  )
}
