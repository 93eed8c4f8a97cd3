import { Link } from 'react-router'
import type { PracticalFile } from '@/api'
import { Name, Unit } from '@/ui'
import { stopWords } from '../words'
import { Section } from './Section'
import { useForm } from './formContext'

/** The steps with their times, what is recorded at each, and its cautions; then what is worked out. */
export function Steps() {
  const { file, techniques } = useForm()
  return (
    <Section
      name="steps"
      title="steps"
      items={file.steps ?? []}
      nameOf={(s) => s.title}
      empty="No steps yet. A step says what is done, how long it takes, and what is written down."
      add="add a step"
    >
      {(step, i) => {
        const technique = techniques.find((t) => t.id === step.technique)
        return (
          <div className="grid grid-cols-[1.5rem_minmax(0,1fr)_auto] gap-x-3">
            <span className="font-mono text-copper-text">{i + 1}</span>
            <div>
              <p className="font-semibold">{step.title}</p>
              <p className="max-w-[46rem] text-note text-slate">{step.text}</p>
              {(step.cautions ?? []).map((c) => (
                <p key={c} className="mt-1 border-l-3 border-amber pl-2 text-note text-amber-text">
                  {c}
                </p>
              ))}
              {technique?.guards.map((g) => (
                <p key={g.text} className="mt-1 pl-2.5 text-note text-slate">
                  <b className="font-semibold text-ink">{g.text}</b> {g.why}
                </p>
              ))}
              <p className="mt-1 flex flex-wrap gap-x-4 text-note">
                {technique && (
                  <Link
                    className="underline decoration-rule underline-offset-4 hover:decoration-copper"
                    to={`/handbook/techniques#${technique.id}`}
                  >
                    {technique.name}
                  </Link>
                )}
                {step.stop && <span>until {stopWords(step.stop)}</span>}
                {step.portions != null && <span>in {step.portions} portions</span>}
                {recorded(file, step.records ?? []).map((r) => (
                  <span key={r.symbol}>
                    records <Name of={r.symbol} />
                    {r.repeats != null && ` for each ${r.repeats.axis}`}, {r.instrument},{' '}
                    {r.range.join(' to ')}
                    <Unit of={r.unit} />
                  </span>
                ))}
                {(file.observations ?? [])
                  .filter((o) => step.observes?.includes(o.symbol))
                  .map((o) => (
                    <span key={o.symbol}>
                      looks at {o.symbol}
                      {o.expected !== undefined && o.expected !== '' && `: ${o.expected}`}
                    </span>
                  ))}
                {(file.results ?? [])
                  .filter((r) => step.answers?.includes(r.name))
                  .map((r) => (
                    <span key={r.name}>
                      asks for <Name of={r.name} />
                      {r.unit !== '1' && ` in ${r.unit}`}
                    </span>
                  ))}
              </p>
              {(step.variants ?? []).map((v) => (
                <p key={v.name} className="mt-1 text-note text-slate">
                  or <b className="font-semibold">{v.name}</b>: {v.text}
                </p>
              ))}
            </div>
            <p className="text-right font-mono whitespace-nowrap text-slate">
              {step.minutes && `${step.minutes.join('–')} min`}
              {step.wait != null && <span className="block">{step.wait}</span>}
              {step.temperature != null && <span className="block">{step.temperature}</span>}
              {step.stopping_point === true && (
                <span className="block font-sans text-note">safe to stop</span>
              )}
            </p>
          </div>
        )
      }}
    </Section>
  )
}

function recorded(file: PracticalFile, symbols: readonly string[]) {
  return (file.readings ?? []).filter((r) => symbols.includes(r.symbol))
}
