import type { Cause, CohortResult } from '@/api'
import { niceStep, setUnit, StateMark, ticks } from '@/ui'
import { causeWords } from './causes'

const WIDTH = 720
const LEFT = 110
const ROW = 20

/** One result: a line for each group with its interval, the expected band behind, the robust centre through all. */
export function Spread({ result }: { result: CohortResult }) {
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
        {result.recipe != null && `, ${result.recipe}`}
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
            <StateMark kind="wrong" /> {dots.find((d) => d.outlier)?.group} is an outlier by{' '}
            {result.test === 'grubbs' ? "Grubbs' test" : "Dixon's Q"} (95 %).
          </>
        ) : (
          (result.untested ??
          `none is an outlier by ${result.test === 'grubbs' ? "Grubbs' test" : "Dixon's Q"} (95 %)`)
        )}
      </p>
      <Causes of={result} />
    </section>
  )
}

/** What is shared by those that are off; what chance can do is named in one line. */
function Causes({ of }: { of: CohortResult }) {
  const telling = of.causes.filter((c) => c.told || c.cancels)
  const chance = of.causes.filter((c) => !telling.includes(c))
  return (
    <>
      {telling.map((c: Cause) => (
        <p key={c.name} className={c.told ? 'mt-1 font-semibold' : 'mt-1 text-note text-slate'}>
          {causeWords(c, of.label)}
        </p>
      ))}
      {chance.length > 0 && (
        <p className="text-note text-slate">
          no more than chance can do: {chance.map((c) => [c.name, ...c.same_groups].join(' or ')).join(', ')}
        </p>
      )}
    </>
  )
}

function spoken(result: CohortResult): string {
  return result.dots.map((d) => `${d.group} ${d.value.toPrecision(4)}`).join(', ')
}
