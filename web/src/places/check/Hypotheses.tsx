import type { Hypothesis } from '@/api'
import { MarginNote } from '@/ui'

/** Reactions that could explain what was found, the best supported first: their masses beside those found, and what was seen. */
export function Hypotheses({ of }: { of: readonly Hypothesis[] }) {
  return of.map((h, i) => (
    <MarginNote key={h.name} head={`${h.name}${i === 0 ? ', best supported' : ''}:`}>
      {h.masses.map((m) => (
        <span key={m.of} className="block">
          {m.of} <span className="font-mono text-ink">{m.found}</span> g found,{' '}
          <span className="font-mono">{m.predicted}</span> g by it
        </span>
      ))}
      {h.agrees.length > 0 && <span className="block">seen: {h.agrees.join(', ')}, as it predicts</span>}
      {h.contradicted_by.length > 0 && (
        <span className="block text-magenta">
          seen: {h.contradicted_by.join(', ')}, which it cannot explain
        </span>
      )}
    </MarginNote>
  ))
}
