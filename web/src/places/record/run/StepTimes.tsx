import { useMutation, useQueryClient } from '@tanstack/react-query'
import { Link } from 'react-router'
import { client, unwrapped, type TimeTaken } from '@/api'
import { Failure, Part } from '@/ui'
import { beside, minutesFor } from './times'

/** How long each step took the class, beside the plan; one press takes it over into the plan's draft. */
export function StepTimes({ practical, times }: { practical: string; times: readonly TimeTaken[] }) {
  const queries = useQueryClient()
  const take = useMutation({
    mutationFn: async (time: TimeTaken) => {
      if (!time.now) return
      const path = { id: practical }
      const plan = await unwrapped(client.GET('/api/v1/practicals/{id}', { params: { path } }))
      await unwrapped(
        client.POST('/api/v1/practicals/{id}/draft', {
          params: { path },
          body: {
            step: plan.draft?.step ?? null,
            change: {
              kind: 'edits',
              edits: [{ kind: 'set', path: ['steps', time.now.step, 'minutes'], value: minutesFor(time) }],
              what: `${time.title}: minutes`,
            },
          },
        }),
      )
    },
    onSuccess: () => queries.invalidateQueries({ queryKey: ['plan', practical] }),
  })
  if (times.length === 0) return null
  return (
    <Part title="how long the steps took">
      <table className="w-full border-collapse text-note">
        <caption className="sr-only">minutes of each step beside the plan</caption>
        <thead>
          <tr className="border-b border-ink text-left">
            <th scope="col" className="py-1 pr-4 font-normal text-slate">
              step
            </th>
            <th scope="col" className="py-1 pr-4 font-normal text-slate">
              planned, min
            </th>
            <th scope="col" className="py-1 pr-4 font-normal text-slate">
              median
            </th>
            <th scope="col" className="py-1 font-normal text-slate print:hidden">
              for the plan
            </th>
          </tr>
        </thead>
        <tbody>
          {times.map((time) => (
            <tr key={time.step} className="border-b border-rule align-baseline">
              <th scope="row" className="py-1 pr-4 text-left font-normal">
                {time.title}
              </th>
              <td className="py-1 pr-4 font-mono">{time.planned?.join('–') ?? '–'}</td>
              <td className={`py-1 pr-4 ${beside(time) === 'longer' ? 'text-amber-text' : ''}`}>
                <span className="font-mono">{Math.round(time.median)}</span> min
                <span className="text-slate">
                  {' '}
                  ({Math.round(time.lower)} to {Math.round(time.upper)}, {time.groups} groups)
                </span>
              </td>
              <td className="py-1 print:hidden">
                <Take
                  practical={practical}
                  time={time}
                  taken={take.isSuccess && take.variables.step === time.step}
                  pending={take.isPending}
                  onTake={() => {
                    take.mutate(time)
                  }}
                />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {take.isError && <Failure error={take.error}>The plan is as it was.</Failure>}
    </Part>
  )
}

function Take({
  practical,
  time,
  taken,
  pending,
  onTake,
}: {
  practical: string
  time: TimeTaken
  taken: boolean
  pending: boolean
  onTake: () => void
}) {
  const minutes = minutesFor(time)
  if (taken) {
    return (
      <Link to={`/plan/${practical}`} className="text-copper-text underline underline-offset-4">
        in the draft
      </Link>
    )
  }
  const same = time.now?.minutes?.join('–') === minutes.join('–')
  if (!time.now || same || beside(time) === 'as planned') return null
  return (
    <button
      type="button"
      className="min-h-6 text-copper-text underline underline-offset-4"
      aria-label={`plan ${minutes.join(' to ')} min for ${time.title}`}
      disabled={pending}
      onClick={onTake}
    >
      plan {minutes.join('–')} min
    </button>
  )
}
