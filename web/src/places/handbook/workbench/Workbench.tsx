import { useDeferredValue, useMemo, type ChangeEvent } from 'react'
import { Link, useParams, useSearchParams } from 'react-router'
import { Failure, Wide } from '@/ui'
import { Answer } from './Answer'
import { examples, isAskable, QUESTIONS, type Question } from './questions'
import { useAnswer } from './useAnswer'

/** One question to the core, answered as it is typed, with the solution worked out. The address holds the question. */
export function Workbench() {
  const { question: key } = useParams()
  const question = QUESTIONS.find((q) => q.key === key) ?? QUESTIONS[0]
  if (!question) return null
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-x-10 gap-y-6 desk:grid-cols-[21rem_minmax(0,1fr)]">
      <div>
        <h1 className="text-title">Workbench</h1>
        <ul className="mt-2 mb-5 flex flex-wrap gap-x-4 gap-y-1" aria-label="questions">
          {QUESTIONS.map((q) => (
            <li key={q.key}>
              <Link
                to={`/handbook/workbench/${q.key}`}
                aria-current={q === question ? 'page' : undefined}
                className="inline-block min-h-6 text-slate underline decoration-rule underline-offset-4 hover:text-ink aria-[current=page]:font-semibold aria-[current=page]:text-ink aria-[current=page]:decoration-copper"
              >
                {q.title}
              </Link>
            </li>
          ))}
        </ul>
        <Asked key={question.key} question={question} />
      </div>
      <Wide label="worked out, scrolls sideways">
        <Answered key={`answer ${question.key}`} question={question} />
      </Wide>
    </div>
  )
}

function useTyped(question: Question): [Record<string, string>, (key: string, text: string) => void] {
  const [search, setSearch] = useSearchParams()
  const typed = useMemo(() => {
    const base = examples(question)
    for (const field of question.fields) {
      const there = search.get(field.key)
      if (there !== null) base[field.key] = there
    }
    return base
  }, [question, search])
  return [
    typed,
    (key, text) => {
      setSearch(
        (old) => {
          old.set(key, text)
          return old
        },
        { replace: true },
      )
    },
  ]
}

function Asked({ question }: { question: Question }) {
  const [typed, setTyped] = useTyped(question)
  return (
    <form
      aria-label={question.title}
      className="border-l border-copper pl-5"
      onSubmit={(event) => {
        event.preventDefault()
      }}
    >
      <p className="mb-3 font-semibold">{question.asks}</p>
      <div className="grid grid-cols-2 gap-x-3 gap-y-2.5">
        {question.fields.map((f) => (
          <label key={f.key} className={f.wide ? 'col-span-2' : ''}>
            <span className="mb-0.5 block text-note text-slate">
              {f.label}
              {f.optional && ', if any'}
            </span>
            <Typing
              lines={f.lines ?? 1}
              value={typed[f.key] ?? ''}
              onType={(text) => {
                setTyped(f.key, text)
              }}
            />
          </label>
        ))}
      </div>
      <p className="mt-3 text-note text-slate">
        Digits count: a value is taken to lie within half a unit of its last one, or within a tolerance typed
        behind it, as in 25.00 ± 0.03 mL.
      </p>
    </form>
  )
}

function Typing({ lines, value, onType }: { lines: number; value: string; onType: (text: string) => void }) {
  const shared = {
    className: 'field w-full px-2 font-mono text-note',
    value,
    spellCheck: false,
    autoComplete: 'off',
    onChange: (event: ChangeEvent<HTMLInputElement | HTMLTextAreaElement>) => {
      onType(event.target.value)
    },
  }
  return lines > 1 ? (
    <textarea {...shared} rows={lines} maxLength={4000} wrap="off" />
  ) : (
    <input {...shared} maxLength={400} />
  )
}

function Answered({ question }: { question: Question }) {
  const [typed] = useTyped(question)
  const later = useDeferredValue(typed)
  const request = useMemo(
    () => (isAskable(question, later) ? question.request(later) : null),
    [question, later],
  )
  const answer = useAnswer(request)
  return (
    <section aria-label="answer" aria-live="polite" className={answer.isPlaceholderData ? 'opacity-60' : ''}>
      {request === null && (
        <p className="text-slate">Fill in what is still empty; the answer appears here.</p>
      )}
      {request !== null && answer.isError && (
        <Failure error={answer.error}>
          What you typed is kept; the answer follows as soon as it makes sense.
        </Failure>
      )}
      {request !== null && !answer.isError && answer.data && <Answer answer={answer.data} />}
      {request !== null && answer.isPending && <p className="text-slate">Working it out …</p>}
    </section>
  )
}
