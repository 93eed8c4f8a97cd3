import type { MaterialNeed, PreparationView, WasteNeed } from '@/api'
import { day, Formula, HazardMark } from '@/ui'
import { signalWord } from '@/words'
import { amount } from '../amount'

/** What stands on a bottle: what is in it, how strong, its hazards, who made it, until when it is good. */
export function BottleLabel({ of, need }: { of: PreparationView; need: MaterialNeed }) {
  const bottle = of.bottles.findLast((b) => b.holds === need.name && b.made != null)
  return (
    <>
      <p className="flex items-start justify-between gap-2">
        <span>
          <span className="block text-body font-semibold">{need.name}</span>
          <Formula runs={need.formula} />
        </span>
        <span className="shrink-0">
          {need.pictograms.map((p) => (
            <HazardMark key={p} kind={p} size={26} />
          ))}
        </span>
      </p>
      <p className="flex items-start justify-between gap-2">
        <span>
          <span className="block text-body font-mono">{bottle?.measured ?? need.form}</span>
          <span className="block leading-tight">
            {need.signal != null && <strong>{signalWord(need.signal)} </strong>}
            {need.hazards.join(' ')}
          </span>
        </span>
        {bottle && (
          // Read by cameras: dark on white in either theme.
          <img
            src={`/api/v1/room/bottles/${encodeURIComponent(bottle.name)}/code.svg`}
            alt={`code for the page of ${bottle.name}`}
            className="block h-[15mm] w-[15mm] shrink-0 bg-white p-0.5"
          />
        )}
      </p>
      <p className="mt-auto flex justify-between gap-2">
        <span>
          {bottle?.made
            ? `${bottle.name}, made ${day(bottle.made.at)}, ${bottle.made.by}`
            : 'made ____________'}
          <br />
          good until {bottle?.made?.keep_until ?? '____________'}
        </span>
        <span>{of.class}</span>
      </p>
    </>
  )
}

/** An unknown: its code, large, and nothing that would tell what it is. */
export function VialLabel({ code, className }: { code: string; className: string }) {
  return (
    <>
      <p className="grow content-center text-center text-value font-mono">{code}</p>
      <p className="flex justify-between">
        <span>net ________ g</span>
        <span>{className}</span>
      </p>
    </>
  )
}

/** Where something is thrown away, and what of this practical goes there. */
export function WasteLabel({ waste }: { waste: WasteNeed }) {
  const most = [
    waste.millilitres > 0 && amount(waste.millilitres, 'mL'),
    waste.grams > 0 && amount(waste.grams, 'g'),
  ]
  return (
    <>
      <p className="text-body font-semibold">Waste: {waste.group}</p>
      <p className="leading-tight">{waste.materials.join(', ')}</p>
      <p className="mt-auto flex justify-between">
        <span>at most {most.filter(Boolean).join(' and ')}</span>
        <span>full ________</span>
      </p>
    </>
  )
}
