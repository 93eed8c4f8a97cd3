import { useState } from 'react'
import type { Answer, Asked, Hint, ProblemView, WhichProblem } from '@/api'
import { AnswerPad } from '@/places/bench'
import { Failure, setNumber, StateMark, Unit, WorkedLines, Words } from '@/ui'
import { slipHint, standsState } from '@/words'
import { useJudged, useWorked, type Worked } from '../usePractice'

/** What is asked, one answer at a time: judged at once, a hint when it is wanted, the whole solution at the end. */
export function Sums({
  which,
  view,
  worked,
  onAnswer,
  onAnother,
}: {
  which: WhichProblem
  view: ProblemView
  worked: Worked
  onAnswer: (result: string, answer: Answer) => void
  onAnother: () => void
}) {
  const { answers } = worked
  const [open, setOpen] = useState<string | null>(view.asked[0]?.name ?? null)
  const [shown, setShown] = useState(false)
  const judged = useJudged(which, worked)
  const hints = judged.data?.hints ?? {}
  const done = view.asked.every((a) => hints[a.name] !== undefined && isRight(hints[a.name]))
  const writing = view.asked.find((a) => a.name === open)
  return (
    <section aria-label="what is asked">
      <ol>
        {view.asked.map((asked) => (
          <li key={asked.name} className="border-t border-rule py-2.5">
            <Question
              asked={asked}
              answer={answers[asked.name]}
              hint={answers[asked.name] === undefined ? undefined : hints[asked.name]}
              writing={asked.name === open}
              onWrite={() => {
                setOpen(asked.name)
              }}
            />
          </li>
        ))}
      </ol>
      {judged.isError && <Failure error={judged.error}>The answer was not taken.</Failure>}
      {writing && (
        <AnswerPad
          key={writing.name}
          asked={writing}
          standing={undefined}
          draftKey={`practice/${which.practical}/${which.seed}/${writing.name}`}
          onLeave={() => {
            setOpen(null)
          }}
          onEnter={(text, unit) => {
            onAnswer(writing.name, { text, unit })
            setOpen(next(view.asked, writing.name, answers))
          }}
        />
      )}
      <p className="mt-4 flex flex-wrap items-baseline gap-x-6 gap-y-2 border-t border-ink pt-3">
        {done && <b className="font-semibold text-teal">All correct.</b>}
        <button
          type="button"
          className="quiet"
          aria-expanded={shown}
          onClick={() => {
            setShown(!shown)
          }}
        >
          {shown ? 'hide the solution' : 'show the solution'}
        </button>
        <button type="button" className={done ? 'action' : 'quiet'} onClick={onAnother}>
          {done ? 'Another one' : 'another one'}
        </button>
      </p>
      {shown && <Solution which={which} worked={worked} />}
    </section>
  )
}

function Question({
  asked,
  answer,
  hint,
  writing,
  onWrite,
}: {
  asked: Asked
  answer: Answer | undefined
  hint: Hint | undefined
  writing: boolean
  onWrite: () => void
}) {
  const [helped, setHelped] = useState<string | null>(null)
  const words =
    hint && (hint.words ?? (hint.slip == null ? null : slipHint(hint.slip, hint.at ?? asked.label)))
  const reagent = asked.reagents.find((r) => r.symbol === answer?.text)
  return (
    <>
      <p className="flex flex-wrap items-baseline gap-x-4">
        <span className="font-semibold">
          <Words of={asked.label} />
        </span>
        {answer && (
          <span className="font-mono">
            {reagent ? reagent.name : setNumber(answer.text)}
            {!reagent && <Unit of={answer.unit ?? ''} />}
          </span>
        )}
        {!writing && (
          <button type="button" className="quiet ml-auto" onClick={onWrite}>
            {answer ? 'answer again' : 'answer'}
          </button>
        )}
      </p>
      {hint && (
        <p role="status" className="mt-1 flex flex-wrap items-baseline gap-x-3">
          <StateMark kind={standsState(hint.stands)} />
          <span>{standing(hint)}</span>
          {words != null && helped !== words && (
            <button
              type="button"
              className="quiet"
              onClick={() => {
                setHelped(words)
              }}
            >
              a hint
            </button>
          )}
          {words != null && helped === words && <span className="text-amber-text">{words}</span>}
        </p>
      )}
    </>
  )
}

const isRight = (hint: Hint | undefined) => hint?.stands === 'right' || hint?.stands === 'carried-forward'

function standing(hint: Hint): string {
  switch (hint.stands) {
    case 'right':
      return 'right'
    case 'carried-forward':
      return 'right, using your earlier answer'
    case 'written':
      return 'the number is right: check its unit and digits'
    case 'wrong':
      return hint.slip == null ? 'not right, and no common mistake gives this number' : 'not right yet'
    case 'open':
      return 'it cannot be judged yet'
  }
}

/** The next one that has no answer. */
function next(asked: readonly Asked[], from: string, answers: Record<string, Answer>): string | null {
  const at = asked.findIndex((a) => a.name === from)
  return asked.slice(at + 1).find((a) => answers[a.name] === undefined)?.name ?? null
}

function Solution({ which, worked }: { which: WhichProblem; worked: Worked }) {
  const solution = useWorked(which, worked, true)
  if (solution.isPending) return <p className="py-4 text-slate">Working it out …</p>
  if (solution.isError) return <Failure error={solution.error} />
  return (
    <div className="mt-3">
      {solution.data.map((r) => (
        <section key={r.result} className="mb-5">
          <h3 className="font-semibold">
            <Words of={r.label} />
            {r.comes_to != null && <span className="ml-3 font-mono text-teal">{setNumber(r.comes_to)}</span>}
          </h3>
          <WorkedLines lines={r.lines} />
        </section>
      ))}
    </div>
  )
}
