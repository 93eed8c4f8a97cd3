import { useQuery } from '@tanstack/react-query'
import { client, unwrapped, type Change, type PlanView } from '@/api'
import { dayAndTime, Failure } from '@/ui'
import { PutAway } from './PutAway'

/** Every version, newest first, with what it changed. */
export function History({ view }: { view: PlanView }) {
  const versions = useQuery({
    queryKey: ['versions', view.id],
    queryFn: () =>
      unwrapped(client.GET('/api/v1/practicals/{id}/versions', { params: { path: { id: view.id } } })),
  })
  if (versions.isPending) return <p className="py-12 text-slate">Looking through the versions …</p>
  if (versions.isError) return <Failure error={versions.error} />
  return (
    <div className="max-w-[56rem] border-l border-copper pl-8">
      <h1 className="text-title">{view.file?.title ?? view.id}</h1>
      <p className="mb-4 text-slate">
        A run keeps the version that it started with; publishing a new one never changes what a class has
        done.
      </p>
      {versions.data.length === 0 && (
        <p className="border-y border-rule py-4 text-slate">
          Never published yet: the draft is all there is.
        </p>
      )}
      <ol>
        {versions.data.map((v) => (
          <li key={v.version} className="border-t border-rule py-3">
            <p className="flex flex-wrap items-baseline gap-x-5">
              <b className="font-semibold">version {v.version}</b>
              <span className="text-note text-slate">
                {v.by ?? 'the built-in library'}, {dayAndTime(v.at)}
              </span>
              <a
                className="text-note underline decoration-rule underline-offset-4"
                href={`/api/v1/practicals/${view.id}/file?version=${v.version}`}
                download
              >
                download
              </a>
            </p>
            <Changed changes={v.changes} />
          </li>
        ))}
      </ol>
      {view.published != null && <PutAway id={view.id} />}
    </div>
  )
}

function Changed({ changes }: { changes: readonly Change[] }) {
  if (changes.length === 0) return null
  return (
    <table className="mt-1 w-full text-note">
      <caption className="sr-only">what changed</caption>
      <tbody>
        {changes.map((c) => (
          <tr key={c.item} className="align-baseline">
            <th scope="row" className="w-[34%] py-0.5 pr-4 text-left font-normal text-slate">
              {c.item}
            </th>
            <td className="w-[33%] py-0.5 pr-4">
              {c.before != null && <s className="text-pencil">{c.before}</s>}
            </td>
            <td className="py-0.5">{c.after ?? <span className="text-slate">taken out</span>}</td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}
