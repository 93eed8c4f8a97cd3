import { useState } from 'react'
import { useParams } from 'react-router'
import type { Answer, ByHand, Matter, ProblemView, WhichProblem } from '@/api'
import { AdviceList } from '@/places/bench'
import { Failure } from '@/ui'
import { INDICATORS } from './indicators'
import { PracticeHead } from '../PracticeHead'
import { GivenList } from '../problem/GivenList'
import { NoProblem } from '../problem/ProblemPage'
import { Sums } from '../problem/Sums'
import { useJudged, useProblem } from '../usePractice'
import { useSeed } from '../useSeed'
import { OneTitration } from './OneTitration'
import { Titres } from './Titres'

/** What is told once no more titrations are needed. */
const ENOUGH: readonly Matter['kind'][] = ['titres-agree', 'trials-agree', 'trials-count']

/** A titration from filling the burette to the concentration, by hand. */
export function BurettePage() {
  const { practical = '' } = useParams()
  const { seed, another } = useSeed()
  const which = { practical, seed, by_hand: true }
  const problem = useProblem(which)
  if (problem.isPending) return <p className="py-12 text-slate">Rinsing the burette …</p>
  if (problem.isError) return <NoProblem error={problem.error} />
  const { titration } = problem.data
  if (!titration) return <Failure error={new Error('there is nothing to titrate here')} />
  return (
    <>
      <PracticeHead title={`Titrate: ${problem.data.title}`} seed={seed} onAnother={another}>
        <p className="text-slate">{INDICATORS[titration.indicator].name}</p>
      </PracticeHead>
      <Titrating key={seed} which={which} view={problem.data} of={titration} onAnother={another} />
    </>
  )
}

function Titrating({
  which,
  view,
  of,
  onAnother,
}: {
  which: WhichProblem
  view: ProblemView
  of: ByHand
  onAnother: () => void
}) {
  const [readings, setReadings] = useState<Record<string, string>>({})
  const [answers, setAnswers] = useState<Record<string, Answer>>({})
  const worked = { readings, answers }
  const judged = useJudged(which, worked)
  const done = of.ends.filter((e) => readings[e.symbol] !== undefined).length
  const agrees = judged.data?.advice.some((a) => ENOUGH.includes(a.matter.kind)) ?? false
  const sums = (
    <Sums
      which={which}
      view={view}
      worked={worked}
      onAnswer={(result, answer) => {
        setAnswers({ ...answers, [result]: answer })
      }}
      onAnother={onAnother}
    />
  )
  return (
    <div className="grid gap-x-10 gap-y-6 desk:grid-cols-[minmax(0,26rem)_minmax(0,1fr)]">
      {done < of.ends.length && !(agrees && Object.keys(answers).length > 0) && (
        <OneTitration
          key={done}
          which={which}
          of={of}
          trial={done}
          onRead={(start, end) => {
            const [at, to] = [of.starts[done], of.ends[done]]
            if (at && to) setReadings({ ...readings, [at.symbol]: start, [to.symbol]: end })
          }}
        />
      )}
      <div>
        <Titres of={of} readings={readings} judged={judged.data} />
        {judged.isError && <Failure error={judged.error}>The readings were not taken.</Failure>}
        {judged.data && <AdviceList advice={judged.data.advice} />}
        {agrees && sums}
        <details className="mt-4" open={done === 0}>
          <summary className="quiet">what is given</summary>
          <GivenList view={view} />
        </details>
      </div>
    </div>
  )
}
