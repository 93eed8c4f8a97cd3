import type { Board, GroupPage } from '@/api'
import { clockTime, day } from '@/ui'
import { entryWords } from '@/words'

/** Everything that was entered, in the order of the record; what something else stands in the place of is struck through. */
export function Timeline({ board, page }: { board: Board; page: GroupPage }) {
  const days = [...new Set(page.timeline.map((h) => day(h.at)))]
  return (
    <section aria-labelledby="timeline">
      <h2 id="timeline" className="mb-2 text-body">
        log
      </h2>
      {page.timeline.length === 0 && (
        <p className="border-t border-rule py-3 text-slate">Nothing has been entered at this bench.</p>
      )}
      {days.map((d) => (
        <div key={d}>
          <h3 className="mt-3 text-note text-copper-text">{d}</h3>
          <ol>
            {page.timeline
              .filter((h) => day(h.at) === d)
              .map((h) => {
                const { about, said } = entryWords(h.entry, board)
                return (
                  <li key={h.seq} className="grid grid-cols-[3.5rem_minmax(0,1fr)] gap-x-3 py-0.5 text-note">
                    <span className="font-mono text-slate">{clockTime(h.at)}</span>
                    <span>
                      <span className="text-slate">{about}:</span>{' '}
                      {h.superseded ? (
                        <s className="text-slate">{said}</s>
                      ) : (
                        <b className="font-semibold">{said}</b>
                      )}{' '}
                      <span className={h.by_instructor ? 'text-copper-text' : 'text-slate'}>
                        {h.by}
                        {h.about && ', time about'}
                        {h.reason != null && `, “${h.reason}”`}
                      </span>
                    </span>
                  </li>
                )
              })}
          </ol>
        </div>
      ))}
    </section>
  )
}
