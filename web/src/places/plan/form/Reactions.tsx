import { useMutation } from '@tanstack/react-query'
import { client, unwrapped } from '@/api'
import { Failure, Formula } from '@/ui'
import { withCoefficients } from './coefficients'
import { Section } from './Section'
import { useForm } from './formContext'

/** The reactions, typeset, balanced on request. */
export function Reactions() {
  const { file, plan } = useForm()
  const several = (file.reactions ?? []).length > 1
  return (
    <Section
      name="reactions"
      title={several ? `reactions, ${arrangement[file.arrangement ?? 'sequence']}` : 'reaction'}
      items={file.reactions ?? []}
      nameOf={(r) => (r.name === undefined || r.name === '' ? 'reaction' : r.name)}
      empty="No reaction yet. With one, the plan knows what limits and how much can be made."
      add="add a reaction"
    >
      {(reaction, i) => {
        const set = plan?.reactions[i]
        return (
          <>
            {reaction.name !== undefined && reaction.name !== '' && (
              <p className="text-note text-slate">{reaction.name}</p>
            )}
            <p className="text-lead leading-relaxed tablet:text-[1.375rem]">
              {set ? <Formula runs={set.runs} /> : reaction.equation}
            </p>
            {set && set.balance.length > 0 && (
              <p className="text-note text-teal">
                balanced: {set.balance.map((a) => `${a.symbol} ${a.count}`).join(' · ')} on both sides
              </p>
            )}
            <Balance equation={reaction.equation} at={i} />
          </>
        )
      }}
    </Section>
  )
}

const arrangement = {
  sequence: 'one after the other',
  competing: 'one of which happens',
  parallel: 'side by side',
} as const

/** Finds the coefficients of an equation that does not balance. */
function Balance({ equation, at }: { equation: string; at: number }) {
  const { editing } = useForm()
  const wrong = editing.problems.some((p) => p.place.path[0] === 'reactions' && p.place.path[1] === at)
  const balance = useMutation({
    mutationFn: () => unwrapped(client.POST('/api/v1/compute', { body: { kind: 'equation', equation } })),
    onSuccess: (answer) => {
      if (answer.kind !== 'equation' || answer.balance.status !== 'unique') return
      editing.set(['reactions', at, 'equation'], withCoefficients(equation, answer.balance), 'balanced')
    },
  })
  if (!wrong || editing.readOnly) return null
  const answer = balance.data
  const refused = answer?.kind === 'equation' && answer.balance.status !== 'unique' ? answer.balance : null
  return (
    <div className="print:hidden">
      <button
        type="button"
        className="action text-note"
        onClick={() => {
          balance.mutate()
        }}
      >
        balance it
      </button>
      {balance.isError && <Failure error={balance.error}>The equation is as it was.</Failure>}
      {refused && (
        <p className="text-note text-magenta">
          {refused.status === 'impossible'
            ? refused.reason
            : 'there is more than one independent way to balance it'}
        </p>
      )}
    </div>
  )
}
