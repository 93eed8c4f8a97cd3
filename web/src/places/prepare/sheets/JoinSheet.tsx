import { useQuery } from '@tanstack/react-query'
import { client, unwrapped, type Board } from '@/api'
import { Failure } from '@/ui'

/** How groups join, and a slip for each with its PIN: to be cut. */
export function JoinSheet({ run }: { run: number }) {
  const board = useQuery({
    queryKey: ['join sheet', run],
    queryFn: () => unwrapped(client.GET('/api/v1/runs/{run}/board', { params: { path: { run } } })),
  })
  if (board.isPending) return <p className="text-slate">Fetching the PINs …</p>
  if (board.isError) return <Failure error={board.error} />
  const { data } = board
  return (
    <ul aria-label="slips to join with" className="grid tablet:grid-cols-3 print:grid-cols-3">
      {data.rows
        .filter((row) => row.merged_into == null)
        .map((row) => (
          <Slip key={row.group} board={data} name={row.name} pin={row.pin} />
        ))}
    </ul>
  )
}

function Slip({ board, name, pin }: { board: Board; name: string; pin: string }) {
  return (
    <li className="flex break-inside-avoid gap-3 border border-dashed border-pencil p-3">
      {/* Read by cameras: dark on white in either theme. */}
      <img
        src={`/api/v1/runs/${board.run.id}/join.svg`}
        alt={`code for ${board.join_address}`}
        className="block size-[28mm] bg-white p-1"
      />
      <div>
        <p className="text-lead font-semibold">{name}</p>
        <p className="text-note text-slate">{board.run.class}</p>
        <p>
          code <span className="font-mono font-semibold">{board.run.code}</span>
        </p>
        <p>
          PIN <span className="font-mono font-semibold">{pin}</span>
        </p>
        <p className="text-note break-all">{board.join_address}</p>
      </div>
    </li>
  )
}
