import type { PracticalFile } from '@/api'

/** What groups would read, step by step. */
export function Reading({ file }: { file: PracticalFile }) {
  return (
    <section aria-labelledby="reads" className="mt-10">
      <h2 id="reads" className="mb-2 text-lead">
        how it will read
      </h2>
      <ol>
        {(file.steps ?? []).map((step, i) => (
          <li key={i} className="grid gap-x-6 border-t border-rule py-2 tablet:grid-cols-[13rem_1fr_6rem]">
            <h3 className="font-semibold">{step.title}</h3>
            <p>{step.text}</p>
            <p className="font-mono text-note text-slate tablet:text-right">
              {step.minutes && `${step.minutes.join('–')}\u2009min`}
            </p>
          </li>
        ))}
      </ol>
    </section>
  )
}
