import { useState } from 'react'
import type { DigitsPolicy, PlannedResult, ResultState } from '@/api'
import { Name, setNumber, Unit, WorkedLines, Words } from '@/ui'
import { FieldEditor } from './FieldEditor'
import { Section } from './Section'
import { useForm } from './formContext'

/** What is computed: how masses and titres are found, by which method, the sheet, and what comes out. */
export function Results() {
  const { file, plan, editing } = useForm()
  return (
    <>
      <Section
        name="results"
        title="results"
        items={file.results ?? []}
        nameOf={(r) => r.label}
        empty="No results yet."
        add="add a result"
      >
        {(r) => {
          const planned = plan?.results.find((p) => p.name === r.name)
          return (
            <>
              <div className="grid grid-cols-[minmax(0,1.4fr)_minmax(0,1fr)_9rem] gap-x-4">
                <span>
                  {r.label}
                  <span className="block text-note text-slate">
                    <Name of={r.name} />
                    {r.asked === true ? ' · groups work it out' : ' · for the instructor'}
                    {r.disclosed === 'instructor' && ' · never shown at the bench'}
                  </span>
                </span>
                <span className="text-note text-slate">
                  {digitsWords(r.digits)}, within {r.tolerance}
                </span>
                <span className="text-right text-lead whitespace-nowrap">
                  {planned && <State of={planned.planned} />}
                </span>
              </div>
              {planned?.trial_run && (
                <p className="text-right text-note text-slate">
                  trial run: <State of={planned.trial_run} />
                </p>
              )}
              {planned && planned.worked.length > 0 && <WithSheet result={planned} />}
            </>
          )
        }}
      </Section>
      <Section
        name="weighings"
        title="weighings"
        items={file.weighings ?? []}
        nameOf={(w) => w.label}
        empty="No weighing schemes: masses are used as they are read."
        add="add a weighing"
      >
        {(w) => (
          <p>
            <Name of={w.name} /> · {w.label}
            <span className="text-note text-slate"> · {weighingWords(w)}</span>
          </p>
        )}
      </Section>
      <Section
        name="titres"
        title="titres"
        items={file.titres ?? []}
        nameOf={(t) => t.label}
        empty="No titres."
        add="add a titre"
      >
        {(t) => (
          <p>
            <Name of={t.name} /> · {t.label}
            <span className="text-note text-slate">
              {' '}
              · <Name of={t.end} /> less <Name of={t.start} />
            </span>
          </p>
        )}
      </Section>
      <Section
        name="methods"
        title="methods"
        items={file.methods ?? []}
        nameOf={(m) => m.kind}
        empty="No method. A method defines everything that its results need; a sheet of your own can go on from there."
        add="add a method"
      >
        {(m) => <p>{m.kind.replaceAll('-', ' ')}</p>}
      </Section>
      <section aria-labelledby="own-sheet" className="mt-8" id="line sheet">
        <h2 id="own-sheet" className="mb-1 text-body">
          a sheet of your own
        </h2>
        <FieldEditor
          field={{
            key: 'sheet',
            label: 'one definition a line: name = expression',
            takes: { kind: 'long' },
          }}
          path={['sheet']}
          value={file.sheet}
          editing={editing}
        />
      </section>
      <Section
        name="roles"
        title="what your own definitions stand for"
        items={file.roles ?? []}
        nameOf={(r) => r.definition}
        empty="Nothing said: methods say it of theirs. Say it of your own percent yield, and it is judged as one."
        add="say what one stands for"
      >
        {(r) => (
          <p>
            <Name of={r.definition} /> · {r.role.replaceAll('-', ' ')}
            {r.of != null && <span className="text-note text-slate"> of {r.of}</span>}
          </p>
        )}
      </Section>
    </>
  )
}

function weighingWords(w: { scheme: string } & Record<string, unknown>): string {
  switch (w.scheme) {
    case 'tared':
      return `tared, ${String(w['reading'])}`
    case 'by-difference':
      return `by difference, ${String(w['before'])} less ${String(w['after'])}`
    case 'container-and-contents':
      return `${String(w['gross'])} less ${(w['containers'] as string[]).join(' and ')}`
    default:
      return `${String(w['gross'])} less the blank ${String(w['blank'])}`
  }
}

function WithSheet({ result }: { result: PlannedResult }) {
  const [open, setOpen] = useState(false)
  return (
    <>
      <button
        type="button"
        aria-expanded={open}
        className="min-h-6 text-note text-slate underline decoration-rule underline-offset-4 hover:text-ink print:hidden"
        onClick={() => {
          setOpen(!open)
        }}
      >
        {open ? 'without its sheet' : 'with its sheet'}
      </button>
      {open && <WorkedLines lines={result.worked} />}
    </>
  )
}

function State({ of }: { of: ResultState }) {
  switch (of.kind) {
    case 'value':
      return (
        <>
          <span className="font-mono">
            <Words of={setNumber(of.text)} />
          </span>
          <Unit of={of.unit} />
        </>
      )
    case 'not-yet':
      return <span className="text-note text-slate">needs {of.missing.join(', ')}</span>
    case 'failed':
      return <span className="text-note text-magenta">{of.reason}</span>
  }
}

const digitsWords = (digits: DigitsPolicy | null | undefined) => {
  if (digits == null) return 'digits as the school writes them'
  return digits === 'as-fewest' ? 'digits as the fewest' : 'digits by their own rule'
}
