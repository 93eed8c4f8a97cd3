import { useState } from 'react'
import { useCompute } from '../useCompute'
import { counted, vesselsIn } from './vessels'

/** Into which of the room's vessels a solution goes. */
export function IntoVessels({ volume }: { volume: string }) {
  const [typed, setTyped] = useState('')
  const vessels = vesselsIn(typed)
  const answer = useCompute(
    vessels === null || vessels.length === 0
      ? null
      : { kind: 'solution', ask: 'into-vessels', volume: `${volume} mL`, vessels },
  )
  return (
    <div className="mt-3 print:hidden">
      <label className="flex flex-wrap items-baseline gap-3">
        <span className="text-note text-slate">bottles you have, mL</span>
        <input
          className="field w-56 font-mono"
          maxLength={60}
          placeholder="1 × 2000, 3 × 500"
          value={typed}
          onChange={(event) => {
            setTyped(event.target.value)
          }}
        />
      </label>
      {vessels === null && (
        <p role="status" className="text-note text-amber-text">
          How many of which size, with commas between: 1 × 2000, 3 × 500.
        </p>
      )}
      {answer.isError && (
        <p role="status" className="text-amber-text">
          All of them together hold less than {volume} mL.
        </p>
      )}
      {answer.data && (
        <p>
          Into <span className="font-mono">{counted(answer.data.portions)}</span>.
        </p>
      )}
    </div>
  )
}
