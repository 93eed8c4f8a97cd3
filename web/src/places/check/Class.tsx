import type { Cause, CheckView, CohortResult, OutlierTest } from '@/api'
import { MarginNote, niceStep, setUnit, StateMark, ticks } from '@/ui'
import { slipName } from '@/words'
import { causeWords } from './causes'

const WIDTH = 720
const LEFT = 110
const ROW = 20

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
  const differing = results.filter((r) => !isAlike(r)).reverse()
  const alike = results.filter(isAlike)
  return (
    <div className="grid gap-x-10 gap-y-8 desk:grid-cols-[minmax(0,1fr)_17rem]">
      <div className="flex flex-col gap-8">
        <label className="flex items-baseline gap-3 text-slate print:hidden">
          what does not belong, by
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
          <Spread key={r.name} result={r} />
        ))}
        {alike.map((r) => (
          <p key={r.name} className="border-t border-rule pt-2 text-slate">
            <span className="first-letter:uppercase">{r.label}</span>:{' '}
            <span className="font-mono text-ink">{r.dots[0]?.value.toPrecision(4)}</span> {setUnit(r.unit)} in
            all {r.dots.length} {r.dots.length === 1 ? 'group' : 'groups'} that have it.
          </p>
        ))}
        {pooled.map((line) => (
          <p key={line.label}>
            <b>{line.label}</b>, {line.points.length} groups: slope{' '}
            <span className="font-mono">{line.slope.value.toPrecision(4)}</span>
            {line.slope.standard_error != null &&
              ` ± ${line.slope.standard_error.toPrecision(2)} (standard error)`}
            , intercept <span className="font-mono">{line.intercept.value.toPrecision(3)}</span>{' '}
            {setUnit(line.y_unit)}
          </p>
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
      </aside>
    </div>
  )
}

/** One result: a line for each group with its interval, the expected band behind, the robust centre through all. */
function Spread({ result }: { result: CohortResult }) {
  const { dots, expected, robust, accepted } = result
  const centre = robust?.mean ?? dots[0]?.value ?? 0
  // What is far out stands at the edge with its number; it does not squeeze the others together.
  const reach = Math.max(4 * (robust?.sd ?? 0), 0.02 * Math.abs(centre), 1e-12)
  const near = dots.filter((d) => Math.abs(d.value - centre) <= reach)
  const ends = near.flatMap((d) => [d.value - d.expanded, d.value + d.expanded])
  const also = [expected?.low, expected?.high, accepted?.value].filter((v): v is number => v != null)
  const low = Math.min(...ends, ...also)
  const high = Math.max(...ends, ...also)
  const pad = (high - low || 1) * 0.06
  const [from, to] = [low - pad, high + pad]
  const x = (v: number) => LEFT + ((v - from) / (to - from)) * (WIDTH - LEFT - 60)
  const held = (v: number) => Math.min(WIDTH - 60, Math.max(LEFT, x(v)))
  const height = dots.length * ROW + 34
  const base = dots.length * ROW + 6
  const step = niceStep(from, to, 8)
  const marks = ticks(from, to, step, 5)
  const decimals = Math.max(0, -Math.floor(Math.log10(step)))
  return (
    <section aria-label={result.label}>
      <h2 className="text-lead font-semibold first-letter:uppercase">
        {result.label}
        {result.unit !== '1' && <span className="font-normal text-slate"> / {setUnit(result.unit)}</span>}
      </h2>
      {robust && (
        <p className="text-note text-slate">
          robust mean <span className="font-mono text-ink">{robust.mean_shown}</span>, s{' '}
          <span className="font-mono text-ink">{robust.sd_shown}</span> (Algorithm A), {dots.length} groups
          {accepted && (
            <>
              {' '}
              · {accepted.from === 'trial-run' ? 'trial run' : 'accepted'}{' '}
              <span className="font-mono text-ink">{accepted.value.toPrecision(4)}</span>, class{' '}
              {accepted.bias < 0 ? 'lower' : 'higher'} by{' '}
              <span className="font-mono text-ink">{Math.abs(accepted.bias).toPrecision(2)}</span>
              {accepted.p != null && ` (p ${accepted.p < 0.001 ? '< 0.001' : accepted.p.toPrecision(2)})`}
            </>
          )}
        </p>
      )}
      <svg
        viewBox={`0 0 ${WIDTH} ${height}`}
        className="mt-1 block w-full max-w-3xl"
        role="img"
        aria-label={spoken(result)}
      >
        {expected && (
          <rect
            x={held(expected.low)}
            width={Math.max(0, held(expected.high) - held(expected.low))}
            y={0}
            height={base - 4}
            className="fill-teal-wash"
          />
        )}
        {robust && (
          <path d={`M${held(robust.mean)} 0V${base}`} className="stroke-teal" strokeDasharray="2 3" />
        )}
        {accepted && (
          <path d={`M${held(accepted.value)} 0V${base}`} className="stroke-copper" strokeWidth="2" />
        )}
        {dots.map((d, i) => {
          const y = i * ROW + 11
          const out = x(d.value) < LEFT || x(d.value) > WIDTH - 60
          return (
            <g key={d.group}>
              <text x={LEFT - 12} y={y + 4} textAnchor="end" className="fill-ink text-[13px]">
                {d.group}
              </text>
              {out ? (
                <text
                  x={x(d.value) < LEFT ? LEFT + 4 : WIDTH - 56}
                  y={y + 4}
                  className="fill-magenta font-mono text-[12px]"
                >
                  {x(d.value) < LEFT ? '‹ ' : '› '}
                  {d.value.toPrecision(3)}
                </text>
              ) : (
                <>
                  <path
                    d={`M${held(d.value - d.expanded)} ${y}H${held(d.value + d.expanded)}`}
                    className="stroke-ink opacity-50"
                    strokeWidth="1.5"
                  />
                  <circle
                    cx={x(d.value)}
                    cy={y}
                    r="4.5"
                    className={d.outlier ? 'fill-magenta' : 'fill-ink'}
                  />
                </>
              )}
            </g>
          )
        })}
        <path d={`M${LEFT} ${base}H${WIDTH - 60}`} className="stroke-pencil" />
        {marks.map((t) => (
          <g key={t.value}>
            <path d={`M${x(t.value)} ${base}v${t.long ? 8 : 5}`} className="stroke-pencil" />
            {(t.long || marks.length <= 9) && (
              <text
                x={x(t.value)}
                y={base + 22}
                textAnchor="middle"
                className="fill-slate font-mono text-[12px]"
              >
                {t.value.toFixed(decimals)}
              </text>
            )}
          </g>
        ))}
      </svg>
      <p className="text-note text-slate">
        {dots.some((d) => d.outlier) ? (
          <>
            <StateMark kind="wrong" /> {dots.find((d) => d.outlier)?.group} does not belong by{' '}
            {result.test === 'grubbs' ? "Grubbs' test" : "Dixon's Q"} (95 %).
          </>
        ) : (
          (result.untested ??
          `none is an outlier by ${result.test === 'grubbs' ? "Grubbs' test" : "Dixon's Q"} (95 %)`)
        )}
      </p>
      {result.causes.length > 0 && (
        <ul className="mt-1">
          {result.causes.map((c: Cause) => (
            <li key={c.name} className={c.told ? 'font-semibold' : 'text-note text-slate'}>
              {causeWords(c, result.label)}
            </li>
          ))}
        </ul>
      )}
    </section>
  )
}

function spoken(result: CohortResult): string {
  return result.dots.map((d) => `${d.group} ${d.value.toPrecision(4)}`).join(', ')
}
