import type { MaterialNeed, OnShelf, PreparationView } from '@/api'
import { Formula } from '@/ui'
import { amount, figures } from '../amount'

/** What the shelf does not have enough of, and what nobody has counted yet. */
export function OrderList({ of }: { of: PreparationView }) {
  const short = of.on_shelf.filter((s) => s.there < s.needed)
  const uncounted = of.preparation.materials.filter(
    (m) => m.total != null && !of.on_shelf.some((s) => s.symbol === m.symbol),
  )
  const named = (symbol: string) => of.preparation.materials.find((m) => m.symbol === symbol)?.name ?? symbol
  return (
    <div className="grid gap-x-12 gap-y-8 desk:grid-cols-2">
      <section aria-labelledby="short">
        <h2 id="short" className="mb-2 text-lead">
          to order
        </h2>
        {short.length === 0 && <p className="text-slate">The shelf has enough of what was counted.</p>}
        <ul>
          {short.map((s) => (
            <Short key={`${s.symbol} ${s.unit}`} name={named(s.symbol)} of={s} />
          ))}
        </ul>
      </section>
      <section aria-labelledby="uncounted">
        <h2 id="uncounted" className="mb-2 text-lead">
          not in the stock list: check that you have it
        </h2>
        {uncounted.length === 0 && <p className="text-slate">Everything is in the stock list.</p>}
        <ul>
          {uncounted.map((m) => (
            <li key={m.symbol} className="flex justify-between gap-6 border-t border-rule py-1 last:border-b">
              <span>
                {m.name} <span className="text-slate">{m.form}</span>
              </span>
              <span className="text-right font-mono">
                <Needed of={m} />
              </span>
            </li>
          ))}
        </ul>
      </section>
    </div>
  )
}

function Short({ name, of }: { name: string; of: OnShelf }) {
  return (
    <li className="flex justify-between gap-6 border-t border-rule py-1 last:border-b">
      <span className="font-semibold">{name}</span>
      <span className="font-mono">
        {amount(of.needed - of.there, of.unit)}{' '}
        <span className="text-slate">
          of {amount(of.needed, of.unit)}, {amount(of.there, of.unit)} there
        </span>
      </span>
    </li>
  )
}

/** Of a solution, what it is made from. */
function Needed({ of }: { of: MaterialNeed }) {
  const solid = of.solution?.solids[0]
  if (solid)
    return (
      <>
        {figures(solid.grams)} g <Formula runs={of.formula} />
      </>
    )
  const sold = of.solution?.concentrated[0]
  if (sold) return `${amount(sold.millilitres, 'mL')} of ${sold.sold.strength}`
  return of.total ? amount(of.total.provide, of.unit) : null
}
