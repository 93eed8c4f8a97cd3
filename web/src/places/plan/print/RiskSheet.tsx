import type { PlanView } from '@/api'
import { Part, Sheet } from '@/ui'
import { consequenceWords } from '@/words'
import { CheckedFor } from '../CheckedFor'
import { MaterialRisks } from './MaterialRisks'

const DANGERS = ['together', 'too-full', 'too-hot', 'cannot-boil'] as const

/** What can hurt someone, gathered: by material, by step with the reasons, and what must not come together. */
export function RiskSheet({ view }: { view: PlanView }) {
  const { file, plan } = view
  if (!file) return <p className="py-12 text-slate">There is nothing to print yet.</p>
  const dangers = (plan?.notes ?? []).filter((n) => (DANGERS as readonly string[]).includes(n.what.kind))
  const steps = (file.steps ?? []).map((step, i) => ({
    step,
    at: i + 1,
    technique: view.techniques.find((t) => t.id === step.technique),
  }))
  return (
    <Sheet
      title={`Risks: ${file.title}`}
      aside={<span className="text-slate">gathered from the materials, the steps and their techniques</span>}
    >
      <p className="mt-2 border-l-3 border-amber pl-2 text-amber-text">
        Local rules, the supplier's safety data sheet and your own risk assessment come first. This sheet
        gathers what is usual; it does not say that anything is safe.
      </p>
      <MaterialRisks materials={plan?.materials ?? []} />
      {dangers.length > 0 && (
        <Part title="what does not go together">
          <ul>
            {dangers.map((n, i) => {
              const { head, body } = consequenceWords(n.what)
              return (
                <li key={i} className="border-l-3 border-magenta py-1 pl-2">
                  <b className="font-semibold text-magenta">{head}</b> {body}
                </li>
              )
            })}
          </ul>
        </Part>
      )}
      <Part title="what this was checked for">
        <CheckedFor plan={plan} />
      </Part>
      <Part title="step by step">
        <ol>
          {steps.map(({ step, at, technique }) => (
            <li
              key={at}
              className="grid grid-cols-[1.5rem_minmax(0,1fr)] gap-x-2 border-t border-rule py-2 break-inside-avoid"
            >
              <span className="font-mono text-copper-text">{at}</span>
              <div className="text-note">
                <p className="font-semibold">
                  {step.title}
                  {technique && <span className="font-normal text-slate"> · {technique.name}</span>}
                </p>
                {(step.cautions ?? []).map((c) => (
                  <p key={c} className="border-l-3 border-amber pl-2 text-amber-text">
                    {c}
                  </p>
                ))}
                {[...(technique?.cautions ?? []), ...(technique?.guards ?? [])].map((c) => (
                  <p key={c.text}>
                    {c.text} <span className="text-slate">{c.why}</span>
                  </p>
                ))}
              </div>
            </li>
          ))}
        </ol>
      </Part>
      <Part title="afterwards">
        <p>
          {file.disposal !== undefined && file.disposal !== ''
            ? file.disposal
            : 'Not said: write down where filtrates, washings and left-overs go.'}
        </p>
      </Part>
      <p className="mt-8 flex gap-8 text-note">
        <span className="flex-1 border-b border-ink pb-6">assessed by</span>
        <span className="w-40 border-b border-ink pb-6">date</span>
      </p>
    </Sheet>
  )
}
