import { useQuery } from '@tanstack/react-query'
import { useParams } from 'react-router'
import { client, told, type PlanView } from '@/api'
import { Failure, Formula, MarginNote } from '@/ui'
import { consequenceWords } from '@/words'
import { Ledger } from './Ledger'
import { StartRun } from './StartRun'
import { Steps } from './Steps'

/** A practical as its planner sees it: what is used and done, and what follows from it beside the line. */
export function PlanPlace() {
  const { practical: id = '' } = useParams()
  const plan = useQuery({
    queryKey: ['plan', id],
    queryFn: () => told(client.GET('/api/v1/practicals/{id}', { params: { path: { id } } })),
  })
  if (plan.isPending) return <p className="py-12 text-slate">Opening the plan …</p>
  if (plan.isError) return <Failure error={plan.error}>The shelf has what there is.</Failure>
  return <Planned view={plan.data} />
}

function Planned({ view }: { view: PlanView }) {
  const { head, plan } = view
  return (
    <div className="grid gap-x-10 desk:grid-cols-[minmax(0,1fr)_17rem]">
      <div>
        <h1 className="text-title">{head.title}</h1>
        <p className="text-slate">
          {head.kind} · {head.visits} visits · {head.level} · version {head.version}
        </p>
        <p className="mt-6 text-lead leading-relaxed tablet:text-[1.375rem]">
          <Formula runs={plan.equation} />
        </p>
        <p className="mb-6 text-note text-teal">
          balanced: {plan.balance.map((a) => `${a.symbol} ${a.count}`).join(' · ')} on both sides
        </p>
        <Ledger lines={plan.materials} />
        <Steps view={view} />
        <p className="mt-8 border-l-3 border-amber py-1 pl-3 text-note text-amber-text">
          Local rules, the supplier's safety data sheet and your own risk assessment come first.
        </p>
      </div>
      <aside aria-label="what follows from the plan" className="border-l border-copper pl-5 max-desk:mt-10">
        <h2 className="mb-4 text-note text-ink">what follows from it</h2>
        <div className="flex flex-col gap-5">
          {plan.consequences.map((c) => {
            const { head: word, body } = consequenceWords(c)
            return (
              <MarginNote key={c.kind + body} head={word}>
                {body}
              </MarginNote>
            )
          })}
        </div>
        <StartRun practical={head.id} />
      </aside>
    </div>
  )
}
