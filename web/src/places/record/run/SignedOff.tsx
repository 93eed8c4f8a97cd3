import { client, unwrapped, type Afterwards } from '@/api'
import { dayAndTime, Failure, Part } from '@/ui'
import { useSaying } from './useAfterwards'

/** Who signed what stood here, and what was entered since. */
export function SignedOff({
  run,
  group,
  after,
}: {
  run: number
  /** The group whose page it is; none for the class's. */
  group: number | null
  after: Afterwards
}) {
  const sign = useSaying(run, () =>
    unwrapped(
      client.POST('/api/v1/runs/{run}/signed-off', {
        params: { path: { run } },
        body: group === null ? {} : { group },
      }),
    ),
  )
  const signed = after.signed_off.filter((s) => s.group == null || s.group === group)
  const last = signed.at(-1)
  return (
    <Part title="signed">
      {signed.length === 0 && <p className="text-slate">Not signed yet.</p>}
      <ul>
        {signed.map((s) => (
          <li key={s.head}>
            {s.by}, {dayAndTime(s.at)}
            {group !== null && s.group == null && ', with the whole class'}
            <span className="font-mono text-note text-slate"> · record {s.head}</span>
            {s.later > 0 && (
              <span className="text-amber-text">
                {' '}
                · {s.later} later {s.later === 1 ? 'entry' : 'entries'}
              </span>
            )}
          </li>
        ))}
      </ul>
      {(last === undefined || last.later > 0) && (
        <button
          type="button"
          className="action mt-2 print:hidden"
          disabled={sign.isPending}
          onClick={() => {
            sign.mutate(undefined)
          }}
        >
          {group === null ? 'Sign the class’s page' : 'Sign this page'}
        </button>
      )}
      {sign.isError && <Failure error={sign.error} />}
    </Part>
  )
}
