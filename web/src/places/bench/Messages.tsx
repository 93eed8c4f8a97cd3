import type { BenchView, EntryBody } from '@/api'
import { clockTime } from '@/ui'

/** What the instructor told this group and it has not read yet: over everything else, until somebody says that it is read. */
export function Messages({
  view,
  heard,
  onEnter,
}: {
  view: BenchView
  heard: ReadonlySet<string>
  onEnter: (entry: EntryBody) => void
}) {
  const open = view.messages.filter((m) => !m.heard && !heard.has(m.id))
  if (open.length === 0) return null
  // It stays in sight while the page scrolls to the number that is being typed.
  return (
    <div className="sticky top-0 z-10">
      {open.map((m) => (
        <section
          key={m.id}
          role="alert"
          aria-label="message"
          className="-ml-2 border-b border-b-copper border-l-8 border-copper bg-copper-wash py-2 pr-3 pl-4"
        >
          <p className="text-lead">{m.text}</p>
          <p className="flex flex-wrap items-center justify-between gap-x-4 text-body text-copper-text">
            {m.from}, {clockTime(m.at)}
            {m.to_all && ', to everybody'}
            <button
              type="button"
              className="min-h-14 font-semibold underline underline-offset-4"
              onClick={() => {
                onEnter({ kind: 'heard', message: m.id })
              }}
            >
              We have read it
            </button>
          </p>
        </section>
      ))}
    </div>
  )
}
