import { Link, useSearchParams } from 'react-router'
import type { Aim, BegunView, ToAnswer } from '@/api'
import { Failure } from '@/ui'
import { aimName } from '@/words'
import { Consequences } from './Consequences'
import { Question } from './Question'
import { Reading } from './Reading'
import { useBegin, useBegun } from './useBegin'

/** Everything that is asked for one aim, with what follows beside it. */
export function Questions({ aim }: { aim: Aim }) {
  const [params, setParams] = useSearchParams()
  const answers = Object.fromEntries([...params].filter(([key]) => key !== 'find'))
  const begun = useBegun(aim, answers)
  const begin = useBegin(aim, answers)
  const say = (field: string, value: string) => {
    setParams(
      (before) => {
        const after = new URLSearchParams(before)
        if (value.trim() === '') after.delete(field)
        else after.set(field, value)
        return after
      },
      { replace: true },
    )
  }
  const { of, name } = aimName(aim)
  if (begun.isPending) return <p className="py-12 text-slate">Loading …</p>
  if (begun.isError) return <Failure error={begun.error}>Nothing was begun.</Failure>
  const view = begun.data
  return (
    <div className="grid gap-x-10 desk:grid-cols-[minmax(0,1fr)_19rem]">
      <div className="border-l border-copper pl-8">
        <h1 className="text-title first-letter:uppercase">
          {of} {name}
        </h1>
        <p className="mb-6 text-slate">
          These are suggestions: change whatever is different for you.{' '}
          <Link to="/shelf/begin" className="text-copper-text underline underline-offset-4">
            choose something else
          </Link>
        </p>
        <form
          onSubmit={(event) => {
            event.preventDefault()
            begin.mutate()
          }}
        >
          {view.asked.map((asked) => (
            <Question
              key={asked.field}
              asked={asked}
              said={answers[asked.field]}
              balanced={balancedAs(asked.field, view)}
              onSay={(value) => {
                say(asked.field, value)
              }}
            />
          ))}
          <p className="mt-6 flex flex-wrap items-baseline gap-4">
            <button type="submit" className="action" disabled={view.text == null || begin.isPending}>
              Begin it
            </button>
            <span className="text-slate">{missing(view)}</span>
          </p>
          {begin.isError && <Failure error={begin.error}>Nothing was begun.</Failure>}
        </form>
        {view.file && <Reading file={view.file} />}
      </div>
      <Consequences view={view} />
    </div>
  )
}

/** The equation as it will stand, set and balanced. */
function balancedAs(field: ToAnswer, view: BegunView) {
  const reactions = view.plan?.reactions ?? []
  if (field === 'equation') return reactions[0]?.runs
  return field === 'other-equation' ? reactions[1]?.runs : undefined
}

/** What the press still waits for. */
function missing(view: BegunView): string {
  if (view.text != null) return 'It becomes a draft; only instructors see it.'
  if (view.asked.some((a) => a.problem != null)) return 'One answer needs another look: see above.'
  return 'One answer is missing.'
}
