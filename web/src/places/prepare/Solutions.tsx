import { Link } from 'react-router'
import type { MaterialNeed, PreparationView, SolutionNeed } from '@/api'
import { amount, figures } from './amount'
import { Found } from './bottles/Found'
import { TickBox, TickedBy } from './TickBox'
import { useWhich } from './usePreparation'

/** Every solution, and what it can be made from. */
export function Solutions({ of }: { of: PreparationView }) {
  const solutions = of.preparation.materials.filter((m) => m.solution != null)
  if (solutions.length === 0) {
    return <p className="text-slate">This practical needs no solution that is made beforehand.</p>
  }
  return (
    <ul>
      {solutions.map(
        (m) => m.solution != null && <Solution key={m.symbol} of={of} need={m} made={m.solution} />,
      )}
    </ul>
  )
}

function Solution({ of, need, made }: { of: PreparationView; need: MaterialNeed; made: SolutionNeed }) {
  const { base, search } = useWhich()
  const bottles = of.bottles.filter((b) => b.holds === need.name)
  return (
    <li className="grid items-start gap-x-8 gap-y-1 border-t border-rule py-3 last:border-b tablet:grid-cols-[auto_minmax(0,1fr)_minmax(0,1.2fr)_minmax(0,1.2fr)]">
      <TickBox of={of} item={`material:${need.symbol}`} name={need.name} />
      <div>
        <h2 className="text-lead">
          <Link
            to={`${base}/solutions/${need.symbol}${search}`}
            className="underline decoration-rule underline-offset-4 hover:decoration-copper"
          >
            {need.name}, {need.form}
          </Link>
        </h2>
        {need.total && <p className="font-mono">{amount(need.total.provide, need.unit)}</p>}
        <TickedBy of={of} item={`material:${need.symbol}`} />
      </div>
      <ul className="text-note">
        {made.solids.map((s) => (
          <li key={s.formula}>
            from <span className="font-mono">{figures(s.grams)} g</span> {s.formula}
          </li>
        ))}
        {made.concentrated.map((s) => (
          <li key={s.sold.strength}>
            from <span className="font-mono">{amount(s.millilitres, 'mL')}</span> of {s.sold.strength}
          </li>
        ))}
        {made.to_be_standardised && (
          <li className="text-slate">its strength is measured afterwards: about is near enough</li>
        )}
      </ul>
      <ul className="text-note">
        {bottles.map((b) => (
          <li key={b.name}>
            <Link
              className="font-semibold underline decoration-rule underline-offset-4"
              to={`/prepare/bottles/${encodeURIComponent(b.name)}`}
            >
              {b.name}
            </Link>
            : {b.measured ?? b.strength}
            {b.made && (
              <span className="block text-slate">
                from {b.made.from}, {b.made.by}
              </span>
            )}
            {b.standardised && (
              <span className="block text-slate">standardised by {b.standardised.from}</span>
            )}
            {of.run != null && <Found run={of.run} bottle={b} />}
          </li>
        ))}
        {bottles.length === 0 && <li className="text-slate">no bottle of it in the room yet</li>}
      </ul>
    </li>
  )
}
