import { useState } from 'react'
import type { Line, PlanView, PracticalFile } from '@/api'
import { Formula, Name, setNumber, Unit, WorkedLines, Words, Part, Sheet, Tick } from '@/ui'
import { stopWords } from '../words'

type Step = NonNullable<PracticalFile['steps']>[number]

/** What a group gets on paper: what it needs, what to do, where to write. With answers, what the plan expects there. */
export function StudentSheet({ view }: { view: PlanView }) {
  const [answers, setAnswers] = useState(false)
  const { file, plan } = view
  if (!file) return <p className="py-12 text-slate">There is nothing to print yet.</p>
  const asked = (file.results ?? []).filter((r) => r.asked)
  return (
    <Sheet
      title={file.title}
      aside={
        <Tick ticked={answers} onTick={setAnswers}>
          with answers
        </Tick>
      }
    >
      <p className="text-slate">{[file.kind, file.finds].filter(Boolean).join(' · ')}</p>
      <p className="mt-4 flex gap-8 text-note">
        <span className="flex-1 border-b border-ink pb-6">names</span>
        <span className="w-40 border-b border-ink pb-6">class</span>
        <span className="w-40 border-b border-ink pb-6">date</span>
      </p>
      {plan?.reactions.map((r, i) => (
        <p key={i} className="mt-4 text-lead">
          <Formula runs={r.runs} />
        </p>
      ))}
      <Part title="you need">
        <ul className="columns-2 text-note">
          {(plan?.materials ?? [])
            .filter((m) => m.role !== 'product')
            .map((m) => (
              <li key={m.symbol}>
                {m.planned && `${m.planned.value}\u2009${m.planned.unit} `}
                {m.each != null && `for each ${m.each}, `}
                {m.name}
                <span className="text-slate">, {m.form}</span>
              </li>
            ))}
          {(file.vessels ?? []).map((v) => (
            <li key={v.name}>
              {v.name}, {v.capacity}
            </li>
          ))}
          {(file.instruments ?? []).map((v) => (
            <li key={v.name}>{v.name}</li>
          ))}
        </ul>
      </Part>
      <ol className="mt-6">
        {(file.steps ?? []).map((step, i) => (
          <li
            key={i}
            className="grid grid-cols-[1.5rem_minmax(0,1fr)] gap-x-2 border-t border-rule py-3 break-inside-avoid"
          >
            <span className="font-mono text-copper-text">{i + 1}</span>
            <StepOnPaper step={step} view={view} answers={answers} />
          </li>
        ))}
      </ol>
      {answers && (
        <Part title="worked, with the planned amounts">
          <WorkedLines
            lines={once(asked.flatMap((r) => plan?.results.find((p) => p.name === r.name)?.worked ?? []))}
          />
        </Part>
      )}
      {(file.questions ?? []).length > 0 && (
        <Part title="for the report">
          <ol className="list-decimal pl-5">
            {(file.questions ?? []).map((q) => (
              <li key={q} className="py-1">
                {q}
              </li>
            ))}
          </ol>
        </Part>
      )}
      {file.disposal !== undefined && file.disposal !== '' && (
        <p className="mt-4 text-note">
          <b className="font-semibold">Afterwards.</b> {file.disposal}
        </p>
      )}
      <p className="mt-4 border-l-3 border-amber pl-2 text-note text-amber-text">
        Local rules, the supplier's safety data sheet and your teacher's own risk assessment come first.
      </p>
    </Sheet>
  )
}

/** Each line of the sheet once, where it is first needed. */
function once(lines: readonly Line[]): Line[] {
  const seen = new Set<string>()
  return lines.filter((line) => {
    const key = JSON.stringify(line)
    if (seen.has(key)) return false
    seen.add(key)
    return true
  })
}

function StepOnPaper({ step, view, answers }: { step: Step; view: PlanView; answers: boolean }) {
  const file = view.file
  const readings = (file?.readings ?? []).filter((r) => step.records?.includes(r.symbol))
  const observations = (file?.observations ?? []).filter((o) => step.observes?.includes(o.symbol))
  const results = (file?.results ?? []).filter((r) => step.answers?.includes(r.name))
  const reasons = (file?.reasons ?? []).filter((r) => step.answers?.includes(r.name))
  const spots = file?.typical_errors ?? []
  return (
    <div>
      {(step.cautions ?? []).map((c) => (
        <p key={c} className="mb-1 border-l-3 border-amber pl-2 text-note text-amber-text">
          {c}
        </p>
      ))}
      {Object.entries(step.when ?? {}).map(([symbol, choice]) => (
        <p key={symbol} className="text-note text-copper-text">
          Only if “{file?.observations?.find((o) => o.symbol === symbol)?.question ?? symbol}” was “{choice}”.
        </p>
      ))}
      <p>
        <b className="font-semibold">{step.title}.</b> {step.text}
        {step.stop && <span className="text-slate"> Stop at: {stopWords(step.stop)}.</span>}
        {step.wait != null && <span className="text-slate"> Wait {step.wait}.</span>}
      </p>
      {(readings.length > 0 || results.length > 0) && (
        <table className="mt-2 w-full text-note">
          <caption className="sr-only">to write down</caption>
          <tbody>
            {readings.map((r) => (
              <tr key={r.symbol}>
                <th scope="row" className="py-1 pr-3 text-left font-normal">
                  {r.label} <Name of={r.symbol} />
                </th>
                {Array.from({ length: r.repeats?.most ?? 1 }, (_, i) => (
                  <td key={i} className="w-24 border border-ink px-2 py-1.5 font-mono">
                    {answers && setNumber(r.expected)}
                  </td>
                ))}
                <td className="py-1 pl-2">
                  <Unit of={r.unit} />
                </td>
              </tr>
            ))}
            {results.map((r) => {
              const planned = view.plan?.results.find((p) => p.name === r.name)?.planned
              return (
                <tr key={r.name}>
                  <th scope="row" className="py-1 pr-3 text-left font-normal">
                    {r.label}
                  </th>
                  <td className="w-40 border border-ink px-2 py-1.5 font-mono">
                    {answers && planned?.kind === 'value' && <Words of={setNumber(planned.text)} />}
                  </td>
                  <td className="py-1 pl-2">
                    <Unit of={answers ? r.unit : ''} />
                  </td>
                </tr>
              )
            })}
          </tbody>
        </table>
      )}
      {reasons.map((r) => (
        <div key={r.name} className="mt-2 text-note">
          <p className="first-letter:uppercase">{r.label}</p>
          {answers ? (
            <p className="text-slate">{r.model}</p>
          ) : (
            <div aria-hidden="true" className="h-16 border-b border-ink" />
          )}
        </div>
      ))}
      {observations.map((o) => (
        <p key={o.symbol} className="mt-1 text-note">
          {o.question}{' '}
          {(o.choices ?? []).map((c) => (
            <span key={c} className="mr-4 whitespace-nowrap">
              <span aria-hidden="true">{answers && c === o.expected ? '☒' : '☐'}</span> {c}
            </span>
          ))}
        </p>
      ))}
      {answers && results.length > 0 && spots.length > 0 && (
        <ul className="mt-2 list-disc pl-5 text-note text-slate">
          {spots.map((s) => (
            <li key={s}>{s}</li>
          ))}
        </ul>
      )}
    </div>
  )
}
