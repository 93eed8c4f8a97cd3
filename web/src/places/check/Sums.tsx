import { useMemo, useState } from 'react'
import { useNavigate, useSearchParams } from 'react-router'
import { v7 as uuidv7 } from 'uuid'
import type { CheckView, NewReview } from '@/api'
import { StateMark, useKeys } from '@/ui'
import { Answer } from './Answer'
import { Reason } from './Reason'
import type { Saying } from './Ruling'
import { Spectrum } from './Spectrum'
import { Stacks } from './Stacks'
import { judgedOf, nextOpen, stacksOf, type Judged } from './stacks'
import type { useReview } from './useCheck'

/** All answers to one result: the spectrum, the stacks, one answer in the middle. Everything by keys. */
export function Sums({
  view,
  result,
  review,
  onRelease,
}: {
  view: CheckView
  result: string
  review: ReturnType<typeof useReview>
  onRelease: () => void
}) {
  const judged = useMemo(() => judgedOf(view, result), [view, result])
  const stacks = useMemo(() => stacksOf(judged), [judged])
  const [search, setSearch] = useSearchParams()
  const asked = search.get('sheet') ?? view.sheets.find((s) => String(s.group) === search.get('group'))?.key
  const navigate = useNavigate()
  const [saying, setSaying] = useState<Saying>(null)
  const [evidence, setEvidence] = useState(false)
  const at = Math.max(
    0,
    stacks.findIndex((s) => s.judged.some((j) => j.sheet.key === asked)),
  )
  const stack = stacks[at]
  const one = stack?.judged.find((j) => j.sheet.key === asked) ?? stack?.judged[0]
  const spec = view.results.find((r) => r.name === result)
  const waiting = view.answerers.filter((a) => !judged.some((j) => j.sheet.key === a.key))
  const show = (key: string | undefined) => {
    setSaying(null)
    if (key !== undefined) setSearch({ sheet: key }, { replace: true })
  }
  const takeBack = (said: readonly NewReview[]) => {
    const first = said[0]
    if (first === undefined || review.isPending) return
    review.mutate(
      said.map(({ group, person, result, answer }) => ({
        id: uuidv7(),
        group,
        person: person ?? null,
        result,
        answer,
        ruling: null,
      })),
      {
        onSuccess: () => {
          void navigate(`/check/${view.run.id}/${first.result}?group=${first.group}`, { replace: true })
        },
      },
    )
  }
  const say = (of: readonly Judged[], what: Pick<NewReview, 'ruling' | 'marks' | 'comment'>) => {
    const reviews = of.map((j) => ({
      id: uuidv7(),
      group: j.sheet.group,
      person: j.sheet.person ?? null,
      result,
      answer: j.answer.id,
      ...what,
    }))
    review.mutate(reviews, {
      onSuccess: () => {
        const next = nextOpen(view, result, new Set([...review.done, ...of.map((j) => j.answer.id)]))
        setSaying(null)
        if (next) void navigate(`/check/${view.run.id}/${next.result}?sheet=${next.sheet}`, { replace: true })
      },
    })
  }
  // What is accepted is everything alike that nobody has looked at; what is said with words is of this one.
  const accept = () => {
    if (!stack || review.isPending) return
    const open = stack.judged.filter((j) => !j.reviewed && !review.done.has(j.answer.id))
    // A reason in words has no other judge: accepted, it is right.
    const ruling = spec?.answer === 'words' ? 'right' : 'as-judged'
    say(open.length > 0 ? open : stack.judged, { ruling, marks: null, comment: '' })
  }
  useKeys({
    j: () => {
      show(stacks[Math.min(stacks.length - 1, at + 1)]?.judged[0]?.sheet.key)
    },
    k: () => {
      show(stacks[Math.max(0, at - 1)]?.judged[0]?.sheet.key)
    },
    n: () => {
      if (!stack || !one) return
      show(stack.judged[(stack.judged.indexOf(one) + 1) % stack.judged.length]?.sheet.key)
    },
    a: accept,
    o: () => {
      setSaying('override')
    },
    c: () => {
      setSaying('comment')
    },
    u: () => {
      takeBack(review.last)
    },
    e: () => {
      setEvidence(!evidence)
    },
    r: onRelease,
    ...Object.fromEntries(
      view.results.slice(0, 9).map((r, i) => [
        String(i + 1),
        () => {
          void navigate(`/check/${view.run.id}/${r.name}`)
        },
      ]),
    ),
  })
  const shown = one &&
    stack && {
      view,
      judged: one,
      alike: stack.judged,
      saying,
      error: review.error,
      onSaying: setSaying,
      onTakeBack: () => {
        const { sheet, answer } = one
        takeBack([{ id: '', group: sheet.group, person: sheet.person ?? null, result, answer: answer.id }])
      },
      onSay: (what: Pick<NewReview, 'ruling' | 'marks' | 'comment'>) => {
        if (what.ruling === 'as-judged' && what.comment === '') accept()
        else say([one], what)
      },
    }
  return (
    <>
      {spec?.answer === 'number' && (
        <Spectrum judged={judged} chosen={stack?.judged ?? []} common={view.ticks[result] ?? []} />
      )}
      {shown ? (
        <div className="grid gap-x-10 gap-y-8 tablet:grid-cols-[15rem_minmax(0,1fr)]">
          <Stacks
            stacks={stacks}
            chosen={stack}
            onChoose={(s) => {
              show(s.judged[0]?.sheet.key)
            }}
          />
          {spec?.answer === 'words' ? (
            <Reason {...shown} key={one.answer.id} spec={spec} />
          ) : (
            <Answer {...shown} key={one.answer.id} result={result} evidence={evidence} onSheet={show} />
          )}
        </div>
      ) : (
        <p className="border-y border-rule py-4 text-slate">
          No group has sent this answer yet. It appears here by itself when one does.
        </p>
      )}
      {waiting.length > 0 && (
        <p className="mt-6 text-note text-slate">
          <StateMark kind="waiting" word="waiting" /> no answer yet: {waiting.map((r) => r.name).join(', ')}
        </p>
      )}
      <p className="mt-6 flex flex-wrap gap-x-5 gap-y-1 text-note text-slate print:hidden">
        {KEYS.map(([keys, does]) => (
          <span key={keys}>
            <kbd className="border-b-2 border-rule font-mono text-ink">{keys}</kbd> {does}
          </span>
        ))}
      </p>
    </>
  )
}

const KEYS = [
  ['j k', 'stack'],
  ['n', 'next of the stack'],
  ['a', 'accept all alike, and on'],
  ['o', 'override'],
  ['c', 'comment'],
  ['u', 'take the last one back'],
  ['e', 'evidence'],
  ['r', 'give back'],
  ['1 2 3', 'result'],
] as const
