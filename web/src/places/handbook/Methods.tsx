import { useQuery } from '@tanstack/react-query'
import { client, unwrapped, type MethodText } from '@/api'
import { Failure } from '@/ui'

/** How each figure is found: formula, meaning, source. */
export function Methods() {
  const methods = useQuery({
    queryKey: ['handbook', 'methods'],
    queryFn: () => unwrapped(client.GET('/api/v1/handbook/methods')),
    staleTime: Infinity,
  })
  if (methods.isPending) return <p className="py-12 text-slate">Opening the book …</p>
  if (methods.isError) return <Failure error={methods.error} />
  return (
    <section aria-labelledby="methods">
      <h1 id="methods" className="text-title">
        Methods
      </h1>
      <p className="mb-5 max-w-[52rem] text-slate">
        What is calculated, how, and with which source. Every one of them expands into the same calculation
        sheet that the worked solutions show.
      </p>
      <div className="columns-1 gap-x-12 desk:columns-2">
        {methods.data.map((m) => (
          <One key={m.title} method={m} />
        ))}
      </div>
    </section>
  )
}

function One({ method }: { method: MethodText }) {
  return (
    <article className="mb-6 break-inside-avoid border-t border-rule pt-2">
      <h2 className="text-body">{method.title}</h2>
      <p className="my-1 font-mono text-body whitespace-pre-wrap text-teal">{method.formula}</p>
      <p className="text-note">{method.meaning}</p>
      <p className="text-note text-slate">{method.source}</p>
    </article>
  )
}
