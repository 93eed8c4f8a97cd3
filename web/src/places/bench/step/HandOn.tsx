import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { useNavigate } from 'react-router'
import { client, unwrapped, type BenchView } from '@/api'
import { Failure } from '@/ui'

/** A device goes to another group: it leaves this one first, so that nobody writes on the wrong bench. */
export function HandOn({ view, unsent }: { view: BenchView; unsent: number }) {
  const [asked, setAsked] = useState(false)
  const queries = useQueryClient()
  const navigate = useNavigate()
  const leave = useMutation({
    mutationFn: () => unwrapped(client.DELETE('/api/v1/bench/session')),
    onSuccess: async () => {
      queries.removeQueries({ queryKey: ['bench'] })
      await queries.invalidateQueries({ queryKey: ['session'] })
      await navigate(`/join/${view.code.replace(' ', '-')}`)
    },
  })
  return (
    <section className="mt-4 text-body">
      <button
        type="button"
        aria-expanded={asked}
        className="min-h-14 underline underline-offset-4"
        onClick={() => {
          setAsked(!asked)
        }}
      >
        {asked ? 'Stay with this group' : 'Hand this device on'}
      </button>
      {asked && (
        <p className="border-l-4 border-amber pl-3">
          It then belongs to no group; to come back it needs the PIN <b className="font-mono">{view.pin}</b>.
          {unsent > 0 &&
            ` ${unsent} unsent ${unsent === 1 ? 'entry stays' : 'entries stay'} on it and ${unsent === 1 ? 'is' : 'are'} sent when it is with ${view.group} again.`}{' '}
          <button
            type="button"
            className="min-h-14 font-semibold underline underline-offset-4"
            disabled={leave.isPending}
            onClick={() => {
              leave.mutate()
            }}
          >
            Leave {view.group}
          </button>
        </p>
      )}
      {leave.isError && <Failure error={leave.error} />}
    </section>
  )
}
