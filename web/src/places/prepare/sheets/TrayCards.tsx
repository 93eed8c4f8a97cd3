import type { PreparationView, Tray } from '@/api'
import { amount } from '../amount'

/** A card for each tray: what its group takes by its own recipe, and its glassware. */
export function TrayCards({ of }: { of: PreparationView }) {
  return (
    <ul aria-label="tray cards" className="grid gap-4 tablet:grid-cols-2 print:grid-cols-2">
      {of.preparation.trays.map((tray) => (
        <Card key={tray.group} of={of} tray={tray} />
      ))}
    </ul>
  )
}

function Card({ of, tray }: { of: PreparationView; tray: Tray }) {
  const { materials, things } = of.preparation
  const own = things.filter((t) => t.per_group != null)
  return (
    <li className="flex break-inside-avoid flex-col border border-pencil p-3">
      <p className="flex items-baseline justify-between gap-3">
        <span className="text-lead font-semibold">{of.groups[tray.group]}</span>
        <span className="text-slate">
          {[tray.recipe, vialOf(tray), of.class].filter(Boolean).join(' · ')}
        </span>
      </p>
      <ul className="my-2">
        {tray.takes.map((take) => {
          const need = materials.find((m) => m.symbol === take.symbol)
          if (need === undefined) return null
          return (
            <li key={take.symbol} className="flex justify-between gap-4 border-t border-rule py-0.5">
              <span>
                {need.name} <span className="text-slate">{need.form}</span>
              </span>
              <span className="font-mono whitespace-nowrap">
                {take.amount == null ? (need.roughly ?? '') : amount(take.amount, need.unit)}
              </span>
            </li>
          )
        })}
      </ul>
      <p className="mt-auto text-note">
        {own.map((t) => ((t.per_group ?? 1) > 1 ? `${t.per_group} × ${t.name}` : t.name)).join(', ')}
      </p>
    </li>
  )
}

/** The vial on a tray, where the name of its recipe does not say it. */
function vialOf({ recipe, unknown }: Tray): string {
  return unknown == null || recipe?.includes(unknown) ? '' : `vial ${unknown}`
}
