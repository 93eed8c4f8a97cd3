import { useState } from 'react'
import { Link, useParams } from 'react-router'
import type { Answer, ProblemView, WhichProblem } from '@/api'
import { Failure } from '@/ui'
import { PracticeHead } from '../PracticeHead'
import { useProblem } from '../usePractice'
import { useSeed } from '../useSeed'
import { GivenList } from './GivenList'
import { Sums } from './Sums'

/** The readings of a group that never was, and what is asked of them. */
export function ProblemPage() {
  const { practical = '' } = useParams()
  const { seed, another } = useSeed()
  const which = { practical, seed, by_hand: false }
  const problem = useProblem(which)
  if (problem.isPending) return <p className="py-12 text-slate">Making up readings …</p>
  if (problem.isError) return <NoProblem error={problem.error} />
  return (
    <>
      <PracticeHead title={problem.data.title} seed={seed} onAnother={another}>
        {problem.data.finds !== '' && <p className="text-slate">{problem.data.finds}</p>}
      </PracticeHead>
      <Solving key={seed} which={which} view={problem.data} onAnother={another} />
    </>
  )
}

function Solving({
  which,
  view,
  onAnother,
}: {
  which: WhichProblem
  view: ProblemView
  onAnother: () => void
}) {
  const [answers, setAnswers] = useState<Record<string, Answer>>({})
  return (
    <div className="grid gap-x-10 gap-y-8 desk:grid-cols-[minmax(0,1fr)_minmax(0,26rem)]">
      <GivenList view={view} />
      <Sums
        which={which}
        view={view}
        worked={{ readings: {}, answers }}
        onAnswer={(result, answer) => {
          setAnswers({ ...answers, [result]: answer })
        }}
        onAnother={onAnother}
      />
    </div>
  )
}

/** A problem that cannot be had: why, and where there are others. */
export function NoProblem({ error }: { error: unknown }) {
  return (
    <Failure error={error}>
      <Link to="/practice" className="action inline-block">
        All practice
      </Link>
    </Failure>
  )
}
