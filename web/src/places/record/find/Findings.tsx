import { keepPreviousData, useQuery } from '@tanstack/react-query'
import type { ReactNode } from 'react'
import { Link } from 'react-router'
import { client, unwrapped, type Found } from '@/api'
import { day, Failure } from '@/ui'

/** Everything that holds the words looked for, by kind. */
export function Findings({ wanted }: { wanted: string }) {
  const found = useQuery({
    queryKey: ['search', wanted],
    queryFn: () => unwrapped(client.GET('/api/v1/search', { params: { query: { q: wanted } } })),
    placeholderData: keepPreviousData,
  })
  if (found.isPending) return <p className="py-4 text-slate">Looking …</p>
  if (found.isError) return <Failure error={found.error} />
  const { practicals, runs, groups, people, notes } = found.data
  if ([practicals, runs, groups, people, notes].every((of) => of.length === 0)) {
    return <p className="border-y border-rule py-4 text-slate">Nothing has “{wanted}” in it.</p>
  }
  return (
    <div aria-live="polite">
      <Kind
        title="runs"
        of={runs}
        line={(r) => ({ key: r.run, to: `/record/${r.run}`, words: runWords(r) })}
      />
      <Kind
        title="people"
        of={people}
        line={(p) => ({ key: p.person, to: `/record/people/${p.person}`, words: [p.name, p.class] })}
      />
      <Kind
        title="groups"
        of={groups}
        line={(g) => ({
          key: g.group,
          to: `/record/${g.run}/groups/${g.group}`,
          words: [g.name, `${g.class}, ${g.title}`],
        })}
      />
      <Kind
        title="notes for next time"
        of={notes}
        line={(n) => ({ key: n.run, to: `/record/${n.run}`, words: [n.class, n.text] })}
      />
      <Kind
        title="practicals"
        of={practicals}
        line={(p) => ({ key: p.id, to: `/plan/${p.id}`, words: [p.title, ''] })}
      />
    </div>
  )
}

function runWords(run: Found['runs'][number]): [string, string] {
  const when = `${day(run.opened_at)} ${new Date(run.opened_at).getFullYear()}`
  return [`${run.class}, ${run.title}`, run.archived ? `${when}, archived` : when]
}

function Kind<T>({
  title,
  of,
  line,
}: {
  title: string
  of: readonly T[]
  line: (one: T) => { key: string | number; to: string; words: [ReactNode, string] }
}) {
  if (of.length === 0) return null
  return (
    <section aria-label={title} className="mb-6">
      <h2 className="border-b border-ink pb-1 text-body">{title}</h2>
      <ul>
        {of.map(line).map(({ key, to, words: [first, second] }) => (
          <li key={key} className="border-b border-rule py-1.5">
            <Link to={to} className="text-copper-text underline underline-offset-4">
              {first}
            </Link>
            {second !== '' && <span className="ml-3 text-note text-slate">{second}</span>}
          </li>
        ))}
      </ul>
    </section>
  )
}
