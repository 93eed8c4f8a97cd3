import { useState } from 'react'
import { Link, useParams } from 'react-router'
import type { CheckView, OutlierTest } from '@/api'
import { Failure } from '@/ui'
import { ClassView } from './Class'
import { Marks } from './Marks'
import { Paper } from './Paper'
import { Release } from './Release'
import { judgedOf, progress, releasedWords } from './stacks'
import { Sums } from './Sums'
import { useCheck, useReview } from './useCheck'

type Part = 'sums' | 'marks' | 'class' | 'paper'

/** Every group's sums beside the recomputed values; the marks; the class as a whole. */
export function CheckPlace({ part = 'sums' }: { part?: Part }) {
  const { run, result } = useParams()
  const [test, setTest] = useState<OutlierTest>('grubbs')
  const check = useCheck(Number(run), test)
  const review = useReview(Number(run))
  const [giving, setGiving] = useState(false)
  if (check.isPending) return <p className="py-12 text-slate">Recomputing …</p>
  if (check.isError) return <Failure error={check.error}>The shelf has the list of runs.</Failure>
  const view = check.data
  const chosen =
    view.results.find((r) => r.name === result) ?? view.results.findLast((r) => r.answer !== 'words')
  if (!chosen) return <p className="py-12 text-slate">This practical asks for no results.</p>
  return (
    <>
      <Head
        view={view}
        part={part}
        result={chosen.name}
        onRelease={() => {
          setGiving(!giving)
        }}
      />
      {giving && (
        <Release
          view={view}
          onLeave={() => {
            setGiving(false)
          }}
        />
      )}
      {part === 'sums' && (
        <Sums
          key={chosen.name}
          view={view}
          result={chosen.name}
          review={review}
          onRelease={() => {
            setGiving(!giving)
          }}
        />
      )}
      {part === 'marks' && <Marks view={view} />}
      {part === 'paper' && <Paper view={view} />}
      {part === 'class' && <ClassView view={view} test={test} onTest={setTest} />}
    </>
  )
}

const place =
  'min-h-6 border-b-2 border-transparent text-slate hover:text-ink aria-[current=page]:border-copper aria-[current=page]:text-ink'

function Head({
  view,
  part,
  result,
  onRelease,
}: {
  view: CheckView
  part: Part
  result: string
  onRelease: () => void
}) {
  const spec = view.results.find((r) => r.name === result)
  const judged = judgedOf(view, result)
  const right = judged.filter(
    (j) =>
      ['right', 'carried-forward'].includes(j.verdict.value.kind) ||
      (j.verdict.value.kind === 'to-read' && j.sheet.reviews[result]?.ruling === 'right'),
  ).length
  const { reviewed, of } = progress(view)
  const titles = { sums: spec?.label ?? '', marks: 'marks', class: 'the class', paper: 'answers from paper' }
  return (
    <div className="mb-3 grid items-start gap-x-10 gap-y-2 tablet:grid-cols-[minmax(0,1fr)_auto]">
      <div>
        <h1 className="text-title first-letter:uppercase">{titles[part]}</h1>
        <p className="text-slate">
          {view.run.title}, {view.run.class}
          {part === 'sums' &&
            ` · ${judged.length} of ${view.answerers.length} answered · ${right} ${spec?.answer === 'words' ? 'read and right' : 'with the right number'}`}
        </p>
        <nav aria-label="results" className="mt-1 flex flex-wrap gap-x-5 gap-y-1">
          {view.results.map((r, i) => (
            <Link
              key={r.name}
              to={`/check/${view.run.id}/${r.name}`}
              aria-current={part === 'sums' && r.name === result ? 'page' : undefined}
              className={place}
            >
              <span className="font-mono text-note">{i + 1}</span> {r.label}
            </Link>
          ))}
          <Link
            to={`/check/${view.run.id}/marks`}
            aria-current={part === 'marks' ? 'page' : undefined}
            className={place}
          >
            marks
          </Link>
          <Link
            to={`/check/${view.run.id}/class`}
            aria-current={part === 'class' ? 'page' : undefined}
            className={place}
          >
            the class
          </Link>
          <Link
            to={`/check/${view.run.id}/paper`}
            aria-current={part === 'paper' ? 'page' : undefined}
            className={place}
          >
            from paper
          </Link>
        </nav>
      </div>
      <div className="tablet:text-right">
        <p className="text-slate">
          <span className="font-mono text-title text-ink">{reviewed}</span> of {of} looked at
        </p>
        <button
          type="button"
          className="min-h-6 text-slate underline underline-offset-4 print:no-underline"
          onClick={onRelease}
        >
          {releasedWords(view)}
        </button>
      </div>
    </div>
  )
}
