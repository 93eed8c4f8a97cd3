import type { BenchView } from '@/api'
import { dayAndTime } from '@/ui'
import { waitingWords } from '@/words'
import { Meanwhile } from './Meanwhile'

/** What this group left in the oven or to crystallise: where it stands, how long it has waited, when the next lesson is. */
export function LeftToWait({ view, time, step }: { view: BenchView; time: number; step: number | null }) {
  const here = view.waiting.filter((w) => step === null || w.step === step || w.then === step)
  const next = view.visits.find((v) => v.begins_at > time)
  return here.map((w) => (
    <section key={w.step} aria-label="waiting" className="border-l-4 border-slate py-1 pl-3">
      <p className="text-body">{waitingWords(w, time)}</p>
      {next && time < next.begins_at && (
        <p className="text-body text-slate">The next lesson begins {dayAndTime(next.begins_at)}.</p>
      )}
      <Meanwhile />
    </section>
  ))
}
