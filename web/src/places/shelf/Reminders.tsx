import { Link } from 'react-router'
import type { RunHead } from '@/api'
import { runWaitWords } from '@/words'

/** What was left in the oven or to crystallise, since when, and when it is gone on with. */
export function Reminders({ runs, now }: { runs: readonly RunHead[]; now: number }) {
  const all = runs.flatMap((run) => run.waits.map((wait) => ({ run, wait })))
  if (all.length === 0) return null
  return (
    <section aria-labelledby="left" className="mb-8 border-l-4 border-slate pl-4">
      <h2 id="left" className="mb-1 text-note text-ink">
        waiting
      </h2>
      <ul>
        {all.map(({ run, wait }) => (
          <li key={`${run.id} ${wait.step}`} className="py-0.5">
            <Link
              to={`/board/${run.id}`}
              className="font-semibold underline decoration-rule underline-offset-4 hover:decoration-copper"
            >
              {run.class}
            </Link>{' '}
            <span className="text-slate">{runWaitWords(wait, run.visits, now)}</span>
          </li>
        ))}
      </ul>
    </section>
  )
}
