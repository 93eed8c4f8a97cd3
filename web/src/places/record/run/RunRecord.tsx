import { Link, useParams } from 'react-router'
import { useBoard } from '@/places/board'
import { ManageRun } from './ManageRun'
import { NextTime } from './NextTime'
import { Products } from './Products'
import { SignedOff } from './SignedOff'
import { StepTimes } from './StepTimes'
import { useAfterwards } from './useAfterwards'
import { day, dayAndTime, Failure, Part, Sheet, Download, Unit } from '@/ui'

/** What a class did and found, for whoever was not there. */
export function RunRecord() {
  const { run: id } = useParams()
  const { board } = useBoard(Number(id))
  const after = useAfterwards(Number(id))
  if (board.isPending) return <p className="py-12 text-slate">Opening the record …</p>
  if (board.isError) return <Failure error={board.error}>The record lists every run.</Failure>
  const { run, rows, results } = board.data
  const groups = rows.filter((r) => r.merged_into == null)
  const worked = results.filter((r) => r.answer !== 'words')
  return (
    <Sheet
      title={run.title}
      aside={
        <>
          <Link to="/record" className="text-copper-text underline underline-offset-4">
            the record
          </Link>
          <Link to={`/check/${run.id}/class`} className="text-copper-text underline underline-offset-4">
            the class’s results in Check
          </Link>
          <Link to={`/record/${run.id}/import`} className="text-copper-text underline underline-offset-4">
            from a spreadsheet
          </Link>
          <Download run={run.id} className="text-copper-text underline underline-offset-4" />
        </>
      }
    >
      <p className="text-slate">
        {run.class} · {run.groups} groups · begun {day(run.opened_at)} {new Date(run.opened_at).getFullYear()}
        {run.closed_at != null && `, closed ${day(run.closed_at)}`} · version {run.version} of the practical
      </p>
      <p className="text-note text-slate">
        {run.title !== run.practical_title && `${run.practical_title}. `}Molar masses by {run.masses}.
      </p>
      <ManageRun run={run} />
      <Part title="lessons">
        {run.visits.length === 0 ? (
          <p className="text-slate">No lessons planned.</p>
        ) : (
          <ul className="text-note">
            {run.visits.map((v) => (
              <li key={v.nr}>
                {v.nr}. {dayAndTime(v.begins_at)}, {v.minutes} min
              </li>
            ))}
          </ul>
        )}
      </Part>
      <Part title="what each group found">
        <div className="overflow-x-auto">
          <table className="w-full border-collapse text-note">
            <caption className="sr-only">results of each group with U (k = 2)</caption>
            <thead>
              <tr className="border-b border-ink text-left align-bottom">
                <th scope="col" className="py-1 pr-4 font-normal text-slate">
                  group
                </th>
                {worked.map((r) => (
                  <th key={r.name} scope="col" className="py-1 pr-4 font-normal text-slate">
                    {r.label}, <Unit of={r.unit} />
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {groups.map((row) => (
                <tr key={row.group} className="border-b border-rule">
                  <th scope="row" className="py-1 pr-4 text-left font-normal">
                    <Link
                      to={`/record/${run.id}/groups/${row.group}`}
                      className="text-copper-text underline underline-offset-4"
                    >
                      {row.name}
                    </Link>
                    {row.allotted.assignment != null && (
                      <span className="block text-slate">{row.allotted.assignment}</span>
                    )}
                  </th>
                  {worked.map((r) => {
                    const state = row.outcome.results.find((o) => o.name === r.name)?.state
                    return (
                      <td key={r.name} className="py-1 pr-4 font-mono">
                        {state?.kind === 'value' ? (
                          <>
                            {state.text}
                            {state.expanded != null && (
                              <span className="text-slate"> ± {state.expanded}</span>
                            )}
                          </>
                        ) : (
                          <span className="text-slate">–</span>
                        )}
                      </td>
                    )
                  })}
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      </Part>
      {after.isError && <Failure error={after.error} />}
      {after.data && (
        <>
          <Products run={run.id} rows={groups} after={after.data} />
          <StepTimes practical={run.practical} times={after.data.times} />
          <NextTime run={run.id} after={after.data} />
          <SignedOff run={run.id} group={null} after={after.data} />
        </>
      )}
    </Sheet>
  )
}
