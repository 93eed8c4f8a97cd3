import type { LedgerLine } from '@/api'
import { Formula, HazardMark, Part } from '@/ui'
import { classifiedWords, signalWord } from '@/words'

/** Precautions that say what to do once something has happened begin so. */
const FIRST_AID = 'P3'

/** Each material in its form and strength: what it can do, how to keep that from happening, what to do when it has. */
export function MaterialRisks({ materials }: { materials: readonly LedgerLine[] }) {
  const precautions = [...new Set(materials.flatMap((m) => m.precautions))].sort()
  const firstAid = precautions.filter((p) => p.startsWith(FIRST_AID))
  const controls = precautions.filter((p) => !p.startsWith(FIRST_AID))
  return (
    <>
      <Part title="materials">
        <table className="w-full text-note">
          <thead>
            <tr className="border-b border-ink text-left text-slate">
              <th className="py-1 pr-4 font-normal">substance, in this form and strength</th>
              <th className="py-1 pr-4 font-normal">for one group</th>
              <th className="py-1 font-normal">hazards</th>
            </tr>
          </thead>
          <tbody>
            {materials.map((m) => (
              <tr key={m.symbol} className="border-b border-rule align-top break-inside-avoid">
                <th scope="row" className="py-1.5 pr-4 text-left font-normal">
                  {m.name} <Formula runs={m.formula} />
                  <span className="block text-slate">{m.form}</span>
                </th>
                <td className="py-1.5 pr-4 whitespace-nowrap">
                  {m.in_all ?? (m.planned && `${m.planned.value}\u2009${m.planned.unit}`)}
                </td>
                <td className="py-1.5">
                  <Hazards of={m} />
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </Part>
      {controls.length > 0 && (
        <Part title="precautions">
          <Statements of={controls} from={materials} />
        </Part>
      )}
      {firstAid.length > 0 && (
        <Part title="if something happens">
          <Statements of={firstAid} from={materials} />
        </Part>
      )}
    </>
  )
}

function Hazards({ of }: { of: LedgerLine }) {
  if (of.classified !== 'stated')
    return (
      <span className={of.classified === 'not-filled-in' ? 'text-amber-text' : 'text-slate'}>
        {classifiedWords(of.classified)}
      </span>
    )
  return (
    <div className="flex items-start justify-between gap-3">
      <div>
        {of.signal != null && <strong className="block font-semibold">{signalWord(of.signal)}</strong>}
        {of.hazards.map((h) => (
          <p key={h}>{h}</p>
        ))}
      </div>
      <span className="flex shrink-0 gap-1">
        {of.pictograms.map((p) => (
          <HazardMark key={p} kind={p} size={28} />
        ))}
      </span>
    </div>
  )
}

/** Statements, each with the materials that it is for. */
function Statements({ of, from }: { of: readonly string[]; from: readonly LedgerLine[] }) {
  return (
    <ul className="text-note">
      {of.map((statement) => (
        <li key={statement} className="border-t border-rule py-1 break-inside-avoid">
          {statement}{' '}
          <span className="text-slate">
            {from
              .filter((m) => m.precautions.includes(statement))
              .map((m) => m.name)
              .join(', ')}
          </span>
        </li>
      ))}
    </ul>
  )
}
