import type { BegunView } from '@/api'
import { MarginNote, StateMark } from '@/ui'
import { consequenceWords } from '@/words'
import { Glance } from '../Glance'

/** What follows from the answers, as it will stand beside the plan. */
export function Consequences({ view }: { view: BegunView }) {
  const notes = view.plan?.notes ?? []
  return (
    <aside aria-label="what follows from it" className="border-l border-copper pl-5 max-desk:mt-10">
      {view.plan == null ? (
        <p className="text-note text-slate">
          What follows stands here as soon as there is enough to work it out: titres, yields, precision, time.
        </p>
      ) : (
        <>
          <Glance notes={notes} />
          {notes.map((note, i) => {
            const { head, body } = consequenceWords(note.what)
            return (
              <div key={i} className="mb-3">
                <MarginNote head={head}>
                  {note.warns && (
                    <>
                      <StateMark kind="doubtful" word="look at this" />{' '}
                    </>
                  )}
                  {body}
                </MarginNote>
              </div>
            )
          })}
        </>
      )}
    </aside>
  )
}
