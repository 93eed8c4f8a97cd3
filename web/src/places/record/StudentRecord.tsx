import { useQuery } from '@tanstack/react-query'
import { Link, useParams } from 'react-router'
import { client, unwrapped, type StudentView } from '@/api'
import { day, Failure, Part, setUnit, Sheet, StateMark } from '@/ui'
import { slipName, standsState, standsWords } from '@/words'

/** One student over all practicals: answers, marks, slips that come back. For the instructor; gone with the name. */
export function StudentRecord() {
  const person = Number(useParams()['person'])
  const student = useQuery({
    queryKey: ['student', person],
    queryFn: () => unwrapped(client.GET('/api/v1/people/{person}', { params: { path: { person } } })),
  })
  if (student.isPending) return <p className="py-12 text-slate">Looking through the record …</p>
  if (student.isError) return <Failure error={student.error}>The record lists every run.</Failure>
  return <Page of={student.data} />
}

function Page({ of }: { of: StudentView }) {
  return (
    <Sheet
      title={of.name}
      aside={
        <Link to="/record" className="text-copper-text underline underline-offset-4">
          the record
        </Link>
      }
    >
      <p className="text-slate">{of.classes.join(', ')}</p>
      {of.again.length > 0 && (
        <Part title="slips that came back">
          <ul>
            {of.again.map((s) => (
              <li key={s.slip}>
                {slipName(s.slip)} <span className="text-slate">· in {s.times} answers</span>
              </li>
            ))}
          </ul>
        </Part>
      )}
      {of.runs.length === 0 && <p className="mt-6 text-slate">No practicals yet.</p>}
      {of.runs.map((run) => (
        <Part key={run.run} title={run.title}>
          <p className="text-note text-slate">
            {day(run.opened_at)} {new Date(run.opened_at).getFullYear()} ·{' '}
            <Link
              to={`/record/${run.run}/groups/${run.group}`}
              className="text-copper-text underline underline-offset-4"
            >
              {run.group_name}
            </Link>
            {run.own ? ' · own answers' : ' · the group’s answers'}
          </p>
          {run.answers.length === 0 ? (
            <p className="text-slate">No answer was given.</p>
          ) : (
            <Answers of={run.answers} />
          )}
        </Part>
      ))}
    </Sheet>
  )
}

function Answers({ of }: { of: StudentView['runs'][number]['answers'] }) {
  return (
    <table className="w-full border-collapse text-note">
      <caption className="sr-only">answers with marks</caption>
      <tbody>
        {of.map((answer) => (
          <tr key={answer.label} className="border-b border-rule align-baseline">
            <th scope="row" className="py-1 pr-4 text-left font-normal">
              {answer.label}
            </th>
            <td className="py-1 pr-4 font-mono text-body">
              {answer.text} {setUnit(answer.unit)}
            </td>
            <td className="py-1 pr-4">
              {answer.stands != null && (
                <>
                  <StateMark kind={standsState(answer.stands)} word={standsWords(answer.stands)} />{' '}
                  {standsWords(answer.stands)}
                </>
              )}
              {answer.slips.length > 0 && (
                <span className="text-slate"> · {answer.slips.map((slip) => slipName(slip)).join(', ')}</span>
              )}
            </td>
            <td className="py-1 text-right font-mono whitespace-nowrap">
              {answer.marks ?? '–'}
              <span className="text-slate"> of {answer.most}</span>
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}
