import { useQueries } from '@tanstack/react-query'
import { Link, useParams } from 'react-router'
import {
  client,
  unwrapped,
  type Board,
  type CheckView,
  type GroupPage,
  type Line,
  type WorkedView,
} from '@/api'
import { useBoard, useGroup } from '@/places/board'
import { useCheck } from '@/places/check'
import { day, Failure, Part, setUnit, Sheet, StateMark, Unit, Wide, WorkedLines } from '@/ui'
import { answerState, answerWords, deviationWords } from '@/words'
import { SignedOff } from './SignedOff'
import { useAfterwards } from './useAfterwards'
import { WrittenDown } from './WrittenDown'

/** A group's notebook page: what was read and seen, incidents, the sums from it, and what was said of them. */
export function GroupRecord() {
  const { run: runText, group: groupText } = useParams()
  const [run, group] = [Number(runText), Number(groupText)]
  const { board } = useBoard(run)
  const page = useGroup(run, group)
  const check = useCheck(run, 'grubbs')
  if (board.isError || page.isError || check.isError) {
    return <Failure error={board.error ?? page.error ?? check.error}>The record lists every run.</Failure>
  }
  if (board.isPending || page.isPending || check.isPending) {
    return <p className="py-12 text-slate">Loading …</p>
  }
  return <Page board={board.data} page={page.data} check={check.data} />
}

function Page({ board, page, check }: { board: Board; page: GroupPage; check: CheckView }) {
  const { run } = board
  const { row } = page
  const after = useAfterwards(run.id)
  const people = [...new Map(page.people.map((p) => [p.person, p.name])).values()]
  const worked = board.results.filter((r) => r.answer !== 'words' && r.answer !== 'limiting')
  const steps = useQueries({
    queries: worked.map((r) => ({
      queryKey: ['worked', run.id, row.group, r.name],
      queryFn: () =>
        unwrapped(
          client.GET('/api/v1/runs/{run}/groups/{group}/worked/{result}', {
            params: { path: { run: run.id, group: row.group, result: r.name } },
          }),
        ),
    })),
  })
  return (
    <Sheet
      title={run.title}
      aside={
        <>
          <Link to={`/record/${run.id}`} className="text-copper-text underline underline-offset-4">
            {run.class}
          </Link>
          <Link
            to={`/board/${run.id}/groups/${row.group}`}
            className="text-copper-text underline underline-offset-4"
          >
            in time order
          </Link>
        </>
      }
    >
      <p className="text-lead">
        {row.name}
        {people.length > 0 && `: ${people.join(', ')}`}
      </p>
      <p className="text-slate">
        {run.class} · {day(run.opened_at)} {new Date(run.opened_at).getFullYear()}
        {row.allotted.assignment != null && ` · ${row.allotted.assignment}`}
        {row.allotted.unknown != null && ` · unknown ${row.allotted.unknown}`}
        {row.tags.length > 0 && ` · ${row.tags.join(', ')}`} · version {run.version} of the practical
      </p>
      <WrittenDown board={board} row={row} />
      {row.deviations.length > 0 && (
        <Part title="incidents">
          <ul>
            {row.deviations.map((d) => (
              <li key={d.nr}>{deviationWords(d, board.materials)}</li>
            ))}
          </ul>
        </Part>
      )}
      <Part title="worked out from these readings">
        {worked.map((r, i) => (
          <Solved
            key={r.name}
            label={r.label}
            lines={newLines(
              steps.slice(0, i).map((s) => s.data),
              steps[i]?.data,
            )}
            outcome={outcomeOf(row, r.name)}
          />
        ))}
      </Part>
      <Answers board={board} check={check} group={row.group} />
      {after.data && <SignedOff run={run.id} group={row.group} after={after.data} />}
      <p className="mt-8 text-note text-slate">
        Molar masses by {run.masses}. U is the expanded uncertainty, k = 2. What was corrected is struck
        through, never taken away.
      </p>
    </Sheet>
  )
}

/** The lines of a solution that none before it has shown. */
function newLines(before: readonly (WorkedView | undefined)[], own: WorkedView | undefined): readonly Line[] {
  const shown = new Set(before.flatMap((view) => view?.lines.map((l) => l.name) ?? []))
  return own?.lines.filter((l) => !shown.has(l.name)) ?? []
}

function outcomeOf(row: GroupPage['row'], name: string) {
  return row.outcome.results.find((o) => o.name === name)?.state
}

function Solved({
  label,
  lines,
  outcome,
}: {
  label: string
  lines: readonly Line[]
  outcome: ReturnType<typeof outcomeOf>
}) {
  return (
    <div className="mb-4 break-inside-avoid">
      <h3 className="flex flex-wrap items-baseline gap-x-3 font-semibold">
        {label}
        {outcome?.kind === 'value' && outcome.expanded != null && (
          <span className="font-mono text-note font-normal text-slate">
            U = {outcome.expanded}
            <Unit of={outcome.unit} />
          </span>
        )}
      </h3>
      {outcome?.kind === 'not-yet' && <p className="text-slate">Readings are missing.</p>}
      {outcome?.kind === 'failed' && <p className="text-slate">{outcome.reason}</p>}
      {outcome?.kind === 'value' && lines.length > 0 && (
        <Wide label={`${label}, worked out, scrolls sideways`}>
          <WorkedLines lines={lines} />
        </Wide>
      )}
    </div>
  )
}

/** Their own answers, with what was found of each and the marks that stand. */
function Answers({ board, check, group }: { board: Board; check: CheckView; group: number }) {
  const sheets = check.sheets.filter((s) => s.group === group)
  const asked = board.results.filter((r) => r.asked)
  if (sheets.length === 0) {
    return (
      <Part title="their answers">
        <p className="text-slate">No answer was given.</p>
      </Part>
    )
  }
  return (
    <>
      {sheets.map((sheet) => (
        <Part key={sheet.key} title={sheets.length > 1 ? `answers of ${sheet.name}` : 'their answers'}>
          <table className="w-full border-collapse text-note">
            <caption className="sr-only">answers with marks</caption>
            <tbody>
              {asked.map((r) => {
                const answer = sheet.answers[r.name]
                const verdict = sheet.verdicts[r.name]
                const review = sheet.reviews[r.name]
                return (
                  <tr key={r.name} className="border-b border-rule align-baseline">
                    <th scope="row" className="py-1.5 pr-4 text-left font-normal">
                      {r.label}
                    </th>
                    <td className="py-1.5 pr-4 font-mono text-body">
                      {answer ? (
                        `${answer.text} ${setUnit(answer.unit)}`
                      ) : (
                        <span className="text-slate">none</span>
                      )}
                    </td>
                    <td className="py-1.5 pr-4">
                      {verdict && (
                        <>
                          <StateMark kind={answerState(verdict)} word={answerWords(verdict)} />{' '}
                          {answerWords(verdict)}
                        </>
                      )}
                      {review?.current && review.comment !== '' && (
                        <span className="block text-slate">
                          “{review.comment}”, {review.by}
                        </span>
                      )}
                    </td>
                    <td className="py-1.5 text-right font-mono whitespace-nowrap">
                      {sheet.given[r.name] ?? '–'}
                      <span className="text-slate"> of {r.most}</span>
                    </td>
                  </tr>
                )
              })}
            </tbody>
          </table>
        </Part>
      ))}
    </>
  )
}
