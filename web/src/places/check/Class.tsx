import type { CheckView, CohortResult, OutlierTest } from '@/api'
import { MarginNote, setUnit } from '@/ui'
import { slipName } from '@/words'
import { LeftOvers } from './LeftOvers'
import { Pooled } from './Pooled'
import { Spread } from './Spread'

/** The class as a whole: how each result is spread, what may be shared by those that are off, which slips to teach again. */
export function ClassView({
  view,
  test,
  onTest,
}: {
  view: CheckView
  test: OutlierTest
  onTest: (test: OutlierTest) => void
}) {
  const { results, slips, copied, pooled } = view.class
  // What was asked last says most about a class; what is the same for all says nothing.
  const isAlike = (r: CohortResult) => r.dots.every((d) => d.value === r.dots[0]?.value)
  const order = [...new Set(results.map((r) => r.name))]
  const lastFirst = (a: CohortResult, b: CohortResult) => order.indexOf(b.name) - order.indexOf(a.name)
  const differing = results.filter((r) => !isAlike(r)).sort(lastFirst)
  const alike = results.filter(isAlike)
  return (
    <div className="grid gap-x-10 gap-y-8 desk:grid-cols-[minmax(0,1fr)_17rem]">
      <div className="flex flex-col gap-8">
        <label className="flex items-baseline gap-3 text-slate print:hidden">
          outlier test
          <select
            className="field"
            value={test}
            onChange={(event) => {
              onTest(event.target.value === 'dixon' ? 'dixon' : 'grubbs')
            }}
          >
            <option value="grubbs">Grubbs' test</option>
            <option value="dixon">Dixon's Q</option>
          </select>
        </label>
        {results.length === 0 && <p className="text-slate">No group has a result yet.</p>}
        {differing.map((r) => (
          <Spread key={`${r.name} ${r.recipe ?? ''}`} result={r} />
        ))}
        {alike.map((r) => (
          <p key={`${r.name} ${r.recipe ?? ''}`} className="border-t border-rule pt-2 text-slate">
            <span className="first-letter:uppercase">{r.label}</span>
            {r.recipe != null && `, ${r.recipe}`}:{' '}
            <span className="font-mono text-ink">{r.dots[0]?.value.toPrecision(4)}</span> {setUnit(r.unit)} in
            all {r.dots.length} {r.dots.length === 1 ? 'group' : 'groups'} that have it.
          </p>
        ))}
        {pooled.map((line) => (
          <Pooled key={line.label} line={line} />
        ))}
      </div>
      <aside aria-label="margin" className="flex flex-col gap-5 border-l border-copper pl-5">
        <section aria-labelledby="slips-of-class">
          <h2 id="slips-of-class" className="mb-1.5 text-note text-ink">
            slips of the class
          </h2>
          {slips.length === 0 && <p className="text-note text-slate">None that could be named.</p>}
          <ul>
            {slips.map((s) => (
              <li key={s.slip} className="grid grid-cols-[1.6rem_minmax(0,1fr)] border-t border-rule py-1.5">
                <span className="text-lead font-semibold">{s.groups.length}</span>
                <span>
                  <b className="font-semibold">{slipName(s.slip)}</b>
                  <span className="block text-note text-slate">{s.groups.join(', ')}</span>
                  {s.groups.length >= 3 && (
                    <span className="block text-note text-copper-text">worth five minutes for the class</span>
                  )}
                </span>
              </li>
            ))}
          </ul>
        </section>
        {copied.map((c) => (
          <MarginNote key={`${c.one} ${c.other}`} head="A question:">
            {c.one} and {c.other} have {c.places.length} of {c.of} readings equal to the last digit. That
            happens; ask them.
          </MarginNote>
        ))}
        <LeftOvers of={view.class.left_over} disposal={view.disposal} />
      </aside>
    </div>
  )
}
