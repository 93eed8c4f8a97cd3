import { Link, useNavigate } from 'react-router'
import type { BenchView } from '@/api'
import { isComplete, isLeftOut, type BenchNow } from '../standing'
import type { Entering } from '../useBench'

/** On to the next step. One that is complete is marked as done; one that is not can be left and come back to. */
export function GoOn({
  view,
  now,
  entering,
  step,
}: {
  view: BenchView
  now: BenchNow
  entering: Entering
  step: number
}) {
  const navigate = useNavigate()
  const complete = isComplete(view, now, step)
  const after = view.steps.findIndex((s, i) => i > step && !isLeftOut(s, now))
  const last = after < 0
  const done = now.done.has(step)
  const next = view.steps[after]
  const waits = view.steps[step]?.wait != null
  const meanwhile = view.next.meanwhile.filter((s) => s !== after && !now.done.has(s))
  return (
    <div className="mt-auto pt-6 pb-4">
      {done && !view.closed && (
        <button
          type="button"
          className="min-h-12 text-body underline underline-offset-4"
          onClick={() => {
            entering.enter({ kind: 'step', step, done: false })
          }}
        >
          Mark as not done
        </button>
      )}
      {meanwhile.length > 0 && waits && (
        <p className="mb-2 text-body text-slate">
          Meanwhile you can:{' '}
          {meanwhile.map((s, i) => (
            <span key={s}>
              {i > 0 && ', '}
              <Link
                to={`/bench/${s + 1}`}
                className="inline-block min-h-6 text-ink underline underline-offset-4"
              >
                {view.steps[s]?.title}
              </Link>
            </span>
          ))}
        </p>
      )}
      <button
        type="button"
        autoFocus={complete}
        className={`min-h-16 w-full px-4 py-2 text-left text-lead font-semibold ${
          complete ? 'bg-ink text-paper' : 'border-2 border-rule text-slate'
        }`}
        onClick={() => {
          if (complete && !view.closed && !done) entering.enter({ kind: 'step', step, done: true })
          // What waits is not gone on with by turning the page.
          if (!last && !waits && !view.closed && !now.done.has(after))
            entering.enter({ kind: 'begun', step: after })
          void navigate(last ? '/bench/sheet' : `/bench/${after + 1}`)
        }}
      >
        {complete ? (last ? 'Done: look at everything' : 'Next step') : 'Leave this step for later'}
        {next && <span className="block text-body font-normal">{next.title}</span>}
      </button>
    </div>
  )
}
