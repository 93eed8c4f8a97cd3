import type { LeftOver } from '@/api'
import { Words } from '@/ui'

/** What is left of each reagent at all benches together, by disposal group; where it goes is for the local rule. */
export function LeftOvers({ of, disposal }: { of: readonly LeftOver[]; disposal: string }) {
  const left = of.filter((l) => l.amount > 0)
  if (left.length === 0) return null
  return (
    <section aria-labelledby="left-overs">
      <h2 id="left-overs" className="mb-1.5 text-note text-ink">
        left over, all benches together
      </h2>
      <ul>
        {left.map((l) => (
          <li key={l.symbol} className="border-t border-rule py-1.5">
            <Words of={l.name} />{' '}
            <span className="font-mono whitespace-nowrap">
              {l.mass == null ? `${l.amount.toPrecision(2)} mmol` : `${l.mass.toPrecision(2)} g`}
            </span>
            <span className="block text-note text-slate">{l.group || 'no disposal group named'}</span>
          </li>
        ))}
      </ul>
      {disposal !== '' && <p className="mt-1 text-note text-slate">{disposal}</p>}
      <p className="mt-1 text-note text-amber-text">Your local rule for waste comes first.</p>
    </section>
  )
}
