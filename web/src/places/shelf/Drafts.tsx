import { Link } from 'react-router'
import type { Shelf } from '@/api'
import { dayAndTime, StateMark } from '@/ui'

/** Practicals in the making. */
export function Drafts({ drafts }: { drafts: Shelf['drafts'] }) {
  if (drafts.length === 0) return null
  return (
    <section aria-labelledby="drafts" className="mb-8">
      <h2 id="drafts" className="mb-1 text-body">
        in the making
      </h2>
      <ul>
        {drafts.map((d) => (
          <li key={d.id} className="flex flex-wrap items-baseline gap-x-5 border-t border-rule py-2">
            <Link
              to={`/plan/${d.id}`}
              className="font-semibold underline decoration-rule underline-offset-4 hover:decoration-copper"
            >
              {d.title}
            </Link>
            <span className="text-note text-slate">
              {d.published ? 'changes to a published one' : 'never published'}, kept {dayAndTime(d.saved_at)}
            </span>
            {d.problems > 0 && (
              <span className="text-note text-magenta">
                <StateMark kind="wrong" /> {d.problems} {d.problems === 1 ? 'error' : 'errors'}
              </span>
            )}
          </li>
        ))}
      </ul>
    </section>
  )
}
