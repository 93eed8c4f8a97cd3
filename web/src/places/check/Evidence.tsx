import type { Doubt, Needed, Verdict } from '@/api'
import { benchSlipName, doubtWords, neededWords, placeWords, slipName } from '@/words'

/** Slips at the bench beyond which a list is no longer read. */
const MOST = 8

/** What came close without being named, and which way slips at the bench would push this result. */
export function Evidence({
  verdict,
  effects,
  doubts,
  needs,
}: {
  needs: readonly Needed[]
  doubts: readonly Doubt[]
  verdict: Verdict
  effects: readonly {
    slip: Parameters<typeof benchSlipName>[0]
    size: string
    relative: number
    logged: boolean
  }[]
}) {
  const pushing = effects.filter((e) => e.relative !== 0)
  const idle = effects.filter((e) => e.relative === 0)
  const percent = (x: number) => `${x < 0 ? '−' : '+'}${(100 * Math.abs(x)).toPrecision(2)} %`
  return (
    <div className="flex flex-col gap-2 text-note">
      {[...verdict.diagnosis.named, ...verdict.diagnosis.near].map((e) => (
        <p key={`${e.slip} ${placeWords(e.at)}`}>
          {slipName(e.slip)} ({placeWords(e.at)}): {Math.round(100 * e.chance)} % of the evidence
        </p>
      ))}
      {verdict.diagnosis.named.length + verdict.diagnosis.near.length === 0 && (
        <p className="text-slate">No slip comes near.</p>
      )}
      {needs.length > 0 && (
        <div>
          <p className="pb-1 text-ink">what would make it just 100 %</p>
          <ul>
            {needs.map((n) => (
              <li key={n.kind} className="border-t border-rule py-1">
                {neededWords(n)}
              </li>
            ))}
          </ul>
        </div>
      )}
      {pushing.length > 0 && (
        <table className="border-collapse">
          <caption className="pb-1 text-left text-ink">what the bench may have done to it</caption>
          <thead className="sr-only">
            <tr>
              <th scope="col">what</th>
              <th scope="col">usual size</th>
              <th scope="col">what it does to the result</th>
            </tr>
          </thead>
          <tbody>
            {pushing.slice(0, MOST).map((e) => (
              <tr key={e.slip} className="border-t border-rule align-baseline">
                <th
                  scope="row"
                  className={`py-1 pr-2 text-left ${e.logged ? 'font-semibold' : 'font-normal'}`}
                >
                  {benchSlipName(e.slip)}
                  {e.logged && ' (logged)'}
                </th>
                <td className="pr-2 font-mono whitespace-nowrap text-slate">{e.size}</td>
                <td className="text-right font-mono whitespace-nowrap">{percent(e.relative)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {idle.length > 0 && (
        <p className="text-slate">
          nothing here: {idle.map((e) => `${benchSlipName(e.slip)}${e.logged ? ' (logged)' : ''}`).join(', ')}
        </p>
      )}
      {doubts.map((d) => (
        <p key={JSON.stringify(d.doubted)} className={d.feasible ? '' : 'text-slate'}>
          {doubtWords(d)}
        </p>
      ))}
    </div>
  )
}
