import { useState } from 'react'
import { client, unwrapped, type Board, type Row } from '@/api'
import { Failure } from '@/ui'
import { useAction } from './useGroup'

/** A group whose work is spoiled goes on with readings of another one, labelled as such; its sums are still its own. */
export function Borrow({ board, row, trialRun }: { board: Board; row: Row; trialRun: boolean }) {
  const [from, setFrom] = useState('')
  const borrow = useAction(board.run.id, row.group, (lender: number | null) =>
    unwrapped(
      client.POST('/api/v1/runs/{run}/groups/{group}/borrow', {
        params: { path: { run: board.run.id, group: row.group } },
        body: { from: lender },
      }),
    ),
  )
  const lacking = board.readings.filter((r) => !(r.symbol in row.readings) && r.axis == null)
  const lenders = board.rows.filter(
    (r) => r.group !== row.group && lacking.some((l) => l.symbol in r.readings),
  )
  if (lacking.length === 0 || (lenders.length === 0 && !trialRun)) return null
  return (
    <section aria-label="borrowed readings">
      <h2 className="mb-1 text-ink">spoiled? go on with other readings</h2>
      <label className="block text-slate">
        what {row.name} lacks, from
        <select
          className="field w-full text-body text-ink"
          value={from}
          onChange={(event) => {
            setFrom(event.target.value)
          }}
        >
          <option value="">nobody</option>
          {trialRun && <option value="trial">the instructor’s trial run</option>}
          {lenders.map((l) => (
            <option key={l.group} value={l.group}>
              {l.name}
            </option>
          ))}
        </select>
      </label>
      <button
        type="button"
        className="action text-body"
        disabled={from === '' || borrow.isPending}
        onClick={() => {
          borrow.mutate(from === 'trial' ? null : Number(from), {
            onSuccess: () => {
              setFrom('')
            },
          })
        }}
      >
        Lend them
      </button>
      {borrow.isError && <Failure error={borrow.error} />}
    </section>
  )
}
