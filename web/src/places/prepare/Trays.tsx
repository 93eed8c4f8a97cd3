import type { PreparationView, Thing, VialNeed } from '@/api'
import { TickBox, TickedBy } from './TickBox'

/** What stands at each bench, and what is shared. */
export function Trays({ of }: { of: PreparationView }) {
  const { things } = of.preparation
  const each = things.filter((t) => t.per_group != null)
  const shared = things.filter((t) => t.per_group == null)
  const spare = of.choices.spare_groups ?? 0
  return (
    <div className="grid gap-x-12 gap-y-8 desk:grid-cols-2">
      <section aria-labelledby="each">
        <h2 id="each" className="mb-2 text-body">
          for each group, {of.groups.length} groups
          {spare > 0 && ` and ${spare} spare`}
        </h2>
        <Things of={of} things={each} />
      </section>
      <div className="flex flex-col gap-8">
        <section aria-labelledby="shared">
          <h2 id="shared" className="mb-2 text-body">
            for all
          </h2>
          <Things of={of} things={shared} />
          <p className="mt-4 text-note text-slate">
            Goggles for everyone, the eyewash checked, local rules first.
          </p>
        </section>
        {of.preparation.vials.length > 0 && <Vials of={of} vials={of.preparation.vials} />}
        {of.run != null && <Afterwards of={of} />}
      </div>
    </div>
  )
}

/** Unknowns: filled by the key, and the codes looked at by a second pair of eyes. */
function Vials({ of, vials }: { of: PreparationView; vials: VialNeed[] }) {
  return (
    <section aria-labelledby="vials">
      <h2 id="vials" className="mb-2 text-body">
        vials, filled and then checked
      </h2>
      <ul>
        {vials.map((v) => (
          <li
            key={v.code}
            className="flex flex-wrap items-center gap-x-4 border-t border-rule py-0.5 last:border-b"
          >
            <TickBox of={of} item={`vial:${v.code}`} name={`vial ${v.code}`} />
            <TickBox of={of} item={`vial-checked:${v.code}`} name={`the code of vial ${v.code}`} />
            <span className="w-8 text-right font-mono text-lead">{v.count}</span>
            <span>
              <span className="font-mono font-semibold">{v.code}</span> {v.is}
            </span>
            <TickedBy of={of} item={`vial:${v.code}`} />
            <TickedBy of={of} item={`vial-checked:${v.code}`} />
          </li>
        ))}
      </ul>
    </section>
  )
}

/** What is still to be done when the class has gone. */
const AFTERWARDS: readonly [item: string, name: string][] = [
  ['after:counted', 'everything back and counted'],
  ['after:washed', 'glassware washed'],
  ['after:topped up', 'bottles topped up or emptied'],
  ['after:waste', 'waste bottles closed and put away'],
]

function Afterwards({ of }: { of: PreparationView }) {
  return (
    <section aria-labelledby="afterwards">
      <h2 id="afterwards" className="mb-2 text-body">
        after the lesson
      </h2>
      <ul>
        {AFTERWARDS.map(([item, name]) => (
          <li
            key={item}
            className="flex flex-wrap items-center gap-x-4 border-t border-rule py-0.5 last:border-b"
          >
            <TickBox of={of} item={item} name={name} />
            <span>{name}</span>
            <TickedBy of={of} item={item} />
          </li>
        ))}
      </ul>
    </section>
  )
}

function Things({ of, things }: { of: PreparationView; things: Thing[] }) {
  if (things.length === 0) return <p className="text-slate">Nothing is named in the practical.</p>
  return (
    <ul>
      {things.map((t) => (
        <li
          key={`${t.name} ${t.technique ?? ''}`}
          className="flex flex-wrap items-center gap-x-4 border-t border-rule py-0.5 last:border-b"
        >
          <TickBox of={of} item={`thing:${t.name}`} name={t.name} />
          <span className="w-10 text-right font-mono text-lead">{t.count}</span>
          <span>
            {t.name}
            {t.capacity != null && <span className="text-slate"> · {t.capacity}</span>}
          </span>
          <span className="text-note text-slate">
            {t.per_group != null && t.per_group > 1 && `${t.per_group} a group`}
            {t.serves != null && t.serves > 1 && `each serves ${t.serves} groups at once`}
          </span>
          <TickedBy of={of} item={`thing:${t.name}`} />
        </li>
      ))}
    </ul>
  )
}
