import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { client, unwrapped, type Board } from '@/api'
import { clockTime, dayAndTime, Failure, sameDay } from '@/ui'

/** How often it is looked who has come, while somebody looks. */
const LOOKS_MS = 3000

/** Who has come, the newest first; a device that should not be there is out with one press, and its group has another PIN. */
export function Devices({ board }: { board: Board }) {
  const run = board.run.id
  const queries = useQueryClient()
  const key = ['devices', run]
  const devices = useQuery({
    queryKey: key,
    queryFn: () => unwrapped(client.GET('/api/v1/runs/{run}/devices', { params: { path: { run } } })),
    refetchInterval: LOOKS_MS,
  })
  const out = useMutation({
    mutationFn: (device: number) =>
      unwrapped(client.DELETE('/api/v1/runs/{run}/devices/{device}', { params: { path: { run, device } } })),
    onSettled: () => queries.invalidateQueries({ queryKey: key }),
  })
  if (!devices.data || devices.data.devices.length === 0) return null
  const names = new Map(board.rows.map((row) => [row.group, row.name]))
  return (
    <section aria-labelledby="devices" className="mt-4">
      <h2 id="devices" className="text-note text-slate">
        devices at the benches, the newest first
      </h2>
      <ul className="max-h-52 overflow-y-auto">
        {devices.data.devices.map((device) => (
          <li
            key={device.id}
            className="flex flex-wrap items-baseline justify-between gap-x-4 border-b border-rule py-1"
          >
            <span>
              {names.get(device.group)}
              <span className="text-note text-slate">
                {' '}
                · {device.place === '' ? 'a device' : device.place} ·{' '}
                {sameDay(device.since, board.now) ? clockTime(device.since) : dayAndTime(device.since)}
              </span>
            </span>
            <button
              type="button"
              className="min-h-6 text-copper-text underline underline-offset-4"
              disabled={out.isPending}
              onClick={() => {
                out.mutate(device.id)
              }}
            >
              sign out
              <span className="sr-only">
                {' '}
                this device of {names.get(device.group)}, {device.place}
              </span>
            </button>
          </li>
        ))}
      </ul>
      {out.isSuccess && (
        <p role="status" className="mt-1 text-note text-teal">
          Signed out; its group has a new PIN. Nothing that was entered is lost.
        </p>
      )}
      {out.isError && <Failure error={out.error} />}
    </section>
  )
}
