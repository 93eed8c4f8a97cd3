import type { Plan } from '@/api'
import { CHECKED_FOR, uncheckedWords } from '@/words'

/** What a plan is checked for, that nothing else is, and what could not be: silence is no clearance. */
export function CheckedFor({ plan }: { plan: Plan | null | undefined }) {
  const missing = plan?.unchecked ?? []
  return (
    <div className="text-note text-slate">
      <p>{CHECKED_FOR}</p>
      {missing.length > 0 && (
        <>
          <p className="mt-1 text-ink">Not checked:</p>
          <ul className="list-disc pl-4">
            {missing.map((m) => (
              <li key={uncheckedWords(m)}>{uncheckedWords(m)}</li>
            ))}
          </ul>
        </>
      )}
    </div>
  )
}
