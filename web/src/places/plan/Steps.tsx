import type { PlanView } from '@/api'
import { Name, Unit } from '@/ui'

/** The steps with their times, what is recorded at each, and its cautions; then what is worked out. */
export function Steps({ view }: { view: PlanView }) {
  return (
    <>
      <section aria-labelledby="steps" className="mt-8">
        <h2 id="steps" className="mb-2 text-body">
          steps
        </h2>
        <ol>
          {view.steps.map((step, i) => (
            <li
              key={step.title}
              className="grid grid-cols-[1.5rem_minmax(0,1fr)_auto] gap-x-3 border-t border-rule py-2.5"
            >
              <span className="font-mono text-copper-text">{i + 1}</span>
              <div>
                <p className="font-semibold">{step.title}</p>
                <p className="max-w-[46rem] text-note text-slate">{step.text}</p>
                {(step.cautions ?? []).map((c) => (
                  <p key={c} className="mt-1 border-l-3 border-amber pl-2 text-note text-amber-text">
                    {c}
                  </p>
                ))}
                <p className="mt-1 flex flex-wrap gap-x-4 text-note">
                  {view.readings
                    .filter((r) => step.records?.includes(r.symbol))
                    .map((r) => (
                      <span key={r.symbol}>
                        records <Name of={r.symbol} />, {r.instrument}, {r.range.join(' to ')}
                        <Unit of={r.unit} />
                      </span>
                    ))}
                  {view.observations
                    .filter((o) => step.observes?.includes(o.symbol))
                    .map((o) => (
                      <span key={o.symbol}>
                        looks at {o.symbol}: {o.expected}
                      </span>
                    ))}
                  {view.results
                    .filter((r) => step.answers?.includes(r.name))
                    .map((r) => (
                      <span key={r.name}>
                        asks for <Name of={r.name} /> in {r.unit}
                      </span>
                    ))}
                </p>
              </div>
              <p className="text-right font-mono whitespace-nowrap text-slate">
                {step.minutes && `${step.minutes.join('–')} min`}
                {step.wait && <span className="block">{step.wait}</span>}
                {step.stopping_point && <span className="block font-sans text-note">safe to stop</span>}
              </p>
            </li>
          ))}
        </ol>
      </section>
    </>
  )
}
