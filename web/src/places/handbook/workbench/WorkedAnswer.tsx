import type { ReactNode } from 'react'
import type { Computed, Source, Worked } from '@/api'
import { Name, setNumber, Unit, Words, WorkedLines } from '@/ui'

/** A result with its uncertainty, the solution worked out, and which reading matters most. */
export function WorkedAnswer({
  worked,
  main,
  also = [],
  lead,
  notes,
}: {
  worked: Worked
  main: string
  also?: readonly string[]
  lead?: ReactNode
  notes?: ReactNode
}) {
  const result = worked.results.find((r) => r.name === main)
  const others = also.flatMap((name) => worked.results.find((r) => r.name === name && name !== main) ?? [])
  return (
    <div className="grid gap-x-8 gap-y-6 tablet:grid-cols-[minmax(0,1fr)_14rem]">
      <div>
        {lead}
        {result && <Main result={result} />}
        {others.length > 0 && (
          <dl className="mb-4 flex flex-wrap gap-x-8 gap-y-1">
            {others.map((r) => (
              <div key={r.name}>
                <dt className="text-note text-slate">
                  <Label of={r} />
                </dt>
                <dd className="font-mono text-lead">
                  {setNumber(r.text)}
                  <Unit of={r.unit} />
                </dd>
              </div>
            ))}
          </dl>
        )}
        <h2 className="mb-1 text-note">worked out</h2>
        <WorkedLines lines={worked.lines} />
      </div>
      <aside aria-label="margin" className="flex flex-col gap-4 border-l border-copper pl-5">
        {notes}
        {result && <Budget result={result} />}
      </aside>
    </div>
  )
}

/** What a result is called: in words, or as the sheet calls it where nobody gave it words. */
function Label({ of }: { of: Computed }) {
  return of.label === of.name ? <Name of={of.name} /> : <Words of={of.label} />
}

function Main({ result }: { result: Computed }) {
  return (
    <p className="mb-3">
      <span className="block text-note text-slate">
        <Label of={result} />
      </span>
      <span className="font-mono text-title text-teal">
        {setNumber(result.text)}
        <Unit of={result.unit} />
      </span>
      {result.expanded != null && (
        <span className="ml-4 text-slate">
          {result.rounded != null && setNumber(result.rounded)}
          {`\u2009±\u2009${result.expanded}`}
          <Unit of={result.unit} /> (U, k = 2)
        </span>
      )}
    </p>
  )
}

/** What contributes to the uncertainty, in percent of its variance, most first. */
function Budget({ result }: { result: Computed }) {
  const shares = result.budget.filter((s) => s.fraction >= 0.005).slice(0, 8)
  if (shares.length === 0) return null
  return (
    <section aria-label="uncertainty budget">
      <h2 className="mb-1.5 text-note">
        what makes <Label of={result} /> unsure, % of the variance
      </h2>
      <ul className="flex flex-col gap-1.5">
        {shares.map((s, i) => (
          <li key={i} className="text-note">
            <span className="flex justify-between gap-2">
              <span className={i === 0 ? 'font-semibold' : ''}>
                <Origin source={s.source} />
              </span>
              <span className="font-mono">{(s.fraction * 100).toFixed(0)}</span>
            </span>
            <svg
              viewBox="0 0 200 8"
              className="block h-2 w-full"
              preserveAspectRatio="none"
              aria-hidden="true"
            >
              <path d="M0 7.5H200" className="stroke-rule" />
              <rect
                x="0"
                y="1"
                width={s.fraction * 200}
                height="5"
                className={i === 0 ? 'fill-copper' : 'fill-teal'}
              />
              {[50, 100, 150, 199.5].map((x) => (
                <path key={x} d={`M${x} 4V8`} className="stroke-pencil" strokeWidth="0.7" />
              ))}
            </svg>
          </li>
        ))}
      </ul>
      <p className="mt-2 text-note text-slate">
        The first decides: measure it better before anything else. Simple school: ±{' '}
        {result.apparatus_error.toPrecision(2)}
        <Unit of={result.unit} />.
      </p>
    </section>
  )
}

function Origin({ source }: { source: Source }) {
  switch (source.kind) {
    case 'reading':
      return <Name of={source.of} />
    case 'calibration':
      return <>tolerance of {source.of}</>
    case 'end-point':
      return <>where the end point is seen</>
    case 'stated':
      return <>{source.of}</>
    case 'atomic-mass':
      return <>atomic mass of {source.of}</>
    case 'scatter':
      return (
        <>
          scatter of <Name of={source.of.what} /> about the line
        </>
      )
  }
}
