import { useQuery } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { useLocation } from 'react-router'
import { client, unwrapped, type Technique } from '@/api'
import { Failure, Find } from '@/ui'

const way = { high: 'reads high', low: 'reads low', either: 'either way' } as const

/** The technique library: what each takes, what can hurt, what comes before what, what usually goes wrong. */
export function Techniques() {
  const techniques = useQuery({
    queryKey: ['techniques'],
    queryFn: () => unwrapped(client.GET('/api/v1/handbook/techniques')),
    staleTime: Infinity,
  })
  const [wanted, setWanted] = useState('')
  const { hash } = useLocation()
  const there = techniques.isSuccess
  useEffect(() => {
    if (there && hash !== '') document.getElementById(hash.slice(1))?.scrollIntoView()
  }, [hash, there])
  if (techniques.isPending) return <p className="py-12 text-slate">Fetching the techniques …</p>
  if (techniques.isError) return <Failure error={techniques.error} />
  const words = wanted.toLowerCase().split(/\s+/).filter(Boolean)
  const shown = techniques.data.filter((t) => {
    const text = JSON.stringify(t).toLowerCase()
    return words.every((w) => text.includes(w))
  })
  const groups = [...new Set(shown.map((t) => t.group))]
  return (
    <div className="border-l border-copper pl-8">
      <div className="mb-4 flex items-end justify-between gap-6">
        <div>
          <h1 className="text-title">Techniques</h1>
          <p className="text-slate">
            {techniques.data.length} of them; a step of a practical names its own. Local rules come first.
          </p>
        </div>
        <Find wanted={wanted} onWanted={setWanted} />
      </div>
      {groups.map((group) => (
        <section key={group} aria-labelledby={`group ${group}`} className="mb-8">
          <h2 id={`group ${group}`} className="mb-1 text-body">
            {group}
          </h2>
          {shown
            .filter((t) => t.group === group)
            .map((t) => (
              <One key={t.id} technique={t} />
            ))}
        </section>
      ))}
      {shown.length === 0 && (
        <p className="border-y border-rule py-4 text-slate">No technique has “{wanted}” in it.</p>
      )}
    </div>
  )
}

function One({ technique: t }: { technique: Technique }) {
  return (
    <article
      id={t.id}
      className="grid gap-x-8 gap-y-2 border-t border-rule py-3 text-note tablet:grid-cols-[12rem_minmax(0,1fr)_minmax(0,1fr)]"
    >
      <div>
        <h3 className="text-body font-semibold">{t.name}</h3>
        <p className="font-mono text-slate">{t.minutes.join('–')} min</p>
        <p className="text-slate">{t.equipment.join(', ')}</p>
      </div>
      <div className="flex flex-col gap-1">
        {t.cautions.map((c) => (
          <p key={c.text} className="border-l-3 border-amber pl-2 text-amber-text">
            <b className="font-semibold">{c.text}</b> {c.why}
          </p>
        ))}
        {t.guards.map((g) => (
          <p key={g.text}>
            <b className="font-semibold">{g.text}</b> <span className="text-slate">{g.why}</span>
          </p>
        ))}
        <p className="text-teal">Look for: {t.look_for.join('; ')}.</p>
      </div>
      <ul className="flex flex-col gap-1">
        {t.slips.map((s) => (
          <li key={s.code + s.touches}>
            {s.text}{' '}
            <span className="text-slate">
              – {s.touches} {way[s.sign]}
            </span>
          </li>
        ))}
      </ul>
    </article>
  )
}
