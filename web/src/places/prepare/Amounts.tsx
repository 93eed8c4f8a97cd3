import type { MaterialNeed, NeedShare, PreparationView } from '@/api'
import { Formula } from '@/ui'
import { amount } from './amount'
import { TickBox, TickedBy } from './TickBox'

/** How much of what: for one group, for the class, and what is left over. */
export function Amounts({ of }: { of: PreparationView }) {
  const { materials, waste } = of.preparation
  return (
    <>
      <ul aria-label="materials">
        {materials.map((m) => (
          <Material key={m.symbol} of={of} need={m} />
        ))}
      </ul>
      {waste.length > 0 && (
        <section aria-labelledby="waste" className="mt-8">
          <h2 id="waste" className="mb-2 text-body">
            waste, at most
          </h2>
          <ul>
            {waste.map((w) => (
              <li
                key={w.group}
                className="flex flex-wrap items-center gap-x-6 border-t border-rule py-1 last:border-b"
              >
                <TickBox of={of} item={`waste:${w.group}`} name={w.group} />
                <span className="font-semibold">{w.group}</span>
                <span className="font-mono">
                  {[w.millilitres > 0 && amount(w.millilitres, 'mL'), w.grams > 0 && amount(w.grams, 'g')]
                    .filter(Boolean)
                    .join(' and ')}
                </span>
                <span className="text-slate">{w.materials.join(', ')}</span>
                <TickedBy of={of} item={`waste:${w.group}`} />
              </li>
            ))}
          </ul>
        </section>
      )}
    </>
  )
}

function Material({ of, need }: { of: PreparationView; need: MaterialNeed }) {
  return (
    <li className="grid items-center gap-x-6 gap-y-1 border-t border-rule py-2 last:border-b tablet:grid-cols-[auto_minmax(0,1.1fr)_minmax(0,1.4fr)_7rem_7rem]">
      <TickBox of={of} item={`material:${need.symbol}`} name={need.name} />
      <div>
        <p className="font-semibold">
          {need.name}{' '}
          <span className="font-normal text-slate">
            <Formula runs={need.formula} />
          </span>
        </p>
        <p className="text-note text-slate">
          {need.form}
          {need.also !== '' && ` · ${need.also}`}
        </p>
        <TickedBy of={of} item={`material:${need.symbol}`} />
      </div>
      <div className="text-note">
        {need.shares.map((share) => (
          <p key={share.recipe ?? ''}>
            {share.recipe != null && `${share.recipe}, ${share.groups} groups: `}
            <EachTakes share={share} unit={need.unit} />
          </p>
        ))}
        {need.total == null && (
          <p className="text-slate">
            {need.roughly == null
              ? 'how much of it is not said in the practical'
              : `${need.roughly} for each group`}
          </p>
        )}
      </div>
      <p className="text-lead font-mono tablet:text-right">
        {need.total && amount(need.total.provide, need.unit)}
      </p>
      <div className="text-note text-slate tablet:text-right">
        <p>
          {need.total && need.total.left_over > 0 && `${amount(need.total.left_over, need.unit)} left over`}
        </p>
        <OnShelf of={of} symbol={need.symbol} />
      </div>
    </li>
  )
}

/** Whether the shelf has enough; of what no container holds nothing is said. */
function OnShelf({ of, symbol }: { of: PreparationView; symbol: string }) {
  return of.on_shelf
    .filter((s) => s.symbol === symbol)
    .map((s) => (
      <p key={s.unit} className={s.there < s.needed ? 'font-semibold text-amber-text' : ''}>
        {s.there < s.needed
          ? `${amount(s.needed - s.there, s.unit)} to order`
          : `${amount(s.needed, s.unit)} of ${amount(s.there, s.unit)} in stock`}
      </p>
    ))
}

/** `5 × 25 mL, 2 rinses of 5 mL, 25 mL stay in the glass: 160 mL a group`. */
function EachTakes({ share: { portion, per_group }, unit }: { share: NeedShare; unit: string }) {
  const parts = [
    portion.trials === 1
      ? amount(portion.per_trial, unit)
      : `${portion.trials} × ${amount(portion.per_trial, unit)}`,
  ]
  if (portion.rinses === 1) parts.push(`a rinse of ${amount(portion.per_rinse, unit)}`)
  if (portion.rinses > 1) parts.push(`${portion.rinses} rinses of ${amount(portion.per_rinse, unit)}`)
  if (portion.left_in_glass > 0) parts.push(`${amount(portion.left_in_glass, unit)} left in the glass`)
  return (
    <>
      {parts.join(', ')}
      {parts.length > 1 || portion.trials > 1 ? `: ${amount(per_group, unit)} a group` : ' a group'}
    </>
  )
}
