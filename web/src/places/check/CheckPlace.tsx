import { useMemo, useState } from 'react'
import { Link, useNavigate, useParams, useSearchParams } from 'react-router'
import type { CheckView } from '@/api'
import { Failure, StateMark, useKeys } from '@/ui'
import { Answer } from './Answer'
import { Spectrum } from './Spectrum'
import { judgedOf, stacksOf, type Stack } from './stacks'
import { useCheck } from './useCheck'

/** Every group's sums beside the recomputed values. */
export function CheckPlace() {
  const { run, result } = useParams()
  const check = useCheck(Number(run))
  if (check.isPending) return <p className="py-12 text-slate">Recomputing …</p>
  if (check.isError) return <Failure error={check.error}>The shelf has the runs that there are.</Failure>
  const asked = check.data.results
  const chosen = asked.find((r) => r.name === result) ?? asked.at(-1)
  if (!chosen) return <p className="py-12 text-slate">This practical asks for no results.</p>
  return <Sums key={chosen.name} view={check.data} result={chosen.name} />
}

function Sums({ view, result }: { view: CheckView; result: string }) {
  const judged = useMemo(() => judgedOf(view, result), [view, result])
  const stacks = useMemo(() => stacksOf(judged), [judged])
  const [search] = useSearchParams()
  const asked = search.get('group')
  const [group, setGroup] = useState<number | null>(asked === null ? null : Number(asked))
  const navigate = useNavigate()
  const at = Math.max(
    0,
    stacks.findIndex((s) => s.judged.some((j) => j.row.group === group)),
  )
  const stack = stacks[at]
  const one = stack?.judged.find((j) => j.row.group === group) ?? stack?.judged[0]
  const waiting = view.rows.filter((r) => !(result in r.answers))
  useKeys(
    useMemo(() => {
      const toStack = (i: number) => {
        setGroup(stacks[i]?.judged[0]?.row.group ?? null)
      }
      const toResult = (i: number) => {
        const to = view.results[i]
        if (to) void navigate(`/check/${view.run.id}/${to.name}`)
      }
      return {
        j: () => {
          toStack(Math.min(stacks.length - 1, at + 1))
        },
        k: () => {
          toStack(Math.max(0, at - 1))
        },
        n: () => {
          if (!stack || !one) return
          const i = stack.judged.indexOf(one)
          setGroup(stack.judged[(i + 1) % stack.judged.length]?.row.group ?? null)
        },
        1: () => {
          toResult(0)
        },
        2: () => {
          toResult(1)
        },
        3: () => {
          toResult(2)
        },
      }
    }, [stacks, stack, one, at, view, navigate]),
  )
  const spec = view.results.find((r) => r.name === result)
  const right = judged.filter(
    (j) => j.verdict.value.kind === 'right' || j.verdict.value.kind === 'carried-forward',
  ).length
  return (
    <>
      <div className="mb-3 flex flex-wrap items-start justify-between gap-x-10 gap-y-2">
        <div>
          <h1 className="text-title first-letter:uppercase">{spec?.label}</h1>
          <p className="text-slate">
            {view.run.title}, {view.run.class} · {judged.length} of {view.rows.length} answered · {right} with
            the right number
          </p>
        </div>
        <nav aria-label="results" className="flex flex-wrap gap-x-5 gap-y-1">
          {view.results.map((r, i) => (
            <Link
              key={r.name}
              to={`/check/${view.run.id}/${r.name}`}
              aria-current={r.name === result ? 'page' : undefined}
              className="min-h-6 border-b-2 border-transparent text-slate hover:text-ink aria-[current=page]:border-copper aria-[current=page]:text-ink"
            >
              <span className="font-mono text-note">{i + 1}</span> {r.label}
            </Link>
          ))}
        </nav>
      </div>
      <Spectrum judged={judged} chosen={stack?.judged ?? []} />
      {one && stack ? (
        <div className="grid gap-x-10 gap-y-8 tablet:grid-cols-[15rem_minmax(0,1fr)]">
          <Stacks
            stacks={stacks}
            chosen={stack}
            onChoose={(s) => {
              setGroup(s.judged[0]?.row.group ?? null)
            }}
          />
          <Answer view={view} result={result} judged={one} alike={stack.judged} onGroup={setGroup} />
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
      <p className="mt-6 text-note text-slate print:hidden">
        <kbd className="font-mono">j</kbd> <kbd className="font-mono">k</kbd> stack ·{' '}
        <kbd className="font-mono">n</kbd> next of the stack · <kbd className="font-mono">1 2 3</kbd> result ·{' '}
        <kbd className="font-mono">?</kbd> all keys
      </p>
    </>
  )
}

function Stacks({
  stacks,
  chosen,
  onChoose,
}: {
  stacks: readonly Stack[]
  chosen: Stack
  onChoose: (stack: Stack) => void
}) {
  return (
    <section aria-labelledby="stacks">
      <h2 id="stacks" className="mb-1.5 text-note text-ink">
        stacks, wrong first
      </h2>
      <ul>
        {stacks.map((stack) => (
          <li key={stack.key} className="border-t border-rule last:border-b">
            <button
              type="button"
              aria-pressed={stack === chosen}
              className="grid w-full grid-cols-[1.6rem_minmax(0,1fr)_auto] items-baseline gap-x-2 py-2.5 text-left hover:bg-copper-wash aria-pressed:-ml-3 aria-pressed:w-[calc(100%+0.75rem)] aria-pressed:border-l-3 aria-pressed:border-copper aria-pressed:bg-copper-wash aria-pressed:pl-2.5"
              onClick={() => {
                onChoose(stack)
              }}
            >
              <span className="text-lead font-semibold">{stack.judged.length}</span>
              <span>
                <span className="font-semibold">{stack.words}</span> <StateMark kind={stack.state} />
                <span className="block text-note text-slate">
                  {stack.judged.map((j) => j.row.name).join(', ')}
                </span>
              </span>
              <span className="font-mono text-note">×{stack.ratio}</span>
            </button>
          </li>
        ))}
      </ul>
    </section>
  )
}
