import type { BegunView } from '@/api'
import { Glance } from '../Glance'
import { Told } from '../Told'

/** What follows from the answers, as it will stand beside the plan. */
export function Consequences({ view }: { view: BegunView }) {
  const notes = view.plan?.notes ?? []
  return (
    <aside aria-label="what follows from it" className="border-l border-copper pl-5 max-desk:mt-10">
      {view.plan == null ? (
        <p className="text-note text-slate">
          Titre, yield, precision and time appear here once there is enough to work them out.
        </p>
      ) : (
        <>
          <Glance notes={notes} />
          {notes.map((note, i) => (
            <div key={i} className="mb-3">
              <Told note={note} />
            </div>
          ))}
        </>
      )}
    </aside>
  )
}
