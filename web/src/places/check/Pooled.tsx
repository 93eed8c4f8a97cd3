import type { PooledLine } from '@/api'
import { decimalsOf, niceStep, setUnit, ticks } from '@/ui'

const WIDTH = 560
const HEIGHT = 280
const [LEFT, RIGHT, TOP, BASE] = [64, WIDTH - 16, 12, HEIGHT - 36]

/** The points of all groups and the line through them, on axes of true units. */
export function Pooled({ line }: { line: PooledLine }) {
  const { points, slope, intercept } = line
  const [x, along] = axis(
    points.map((p) => p.x),
    LEFT,
    RIGHT,
  )
  const at = (v: number) => slope.value * v + intercept.value
  const xs = points.map((p) => p.x)
  const ends = [Math.min(...xs), Math.max(...xs)] as const
  const [y, across] = axis([...points.map((p) => p.y), at(ends[0]), at(ends[1])], BASE, TOP)
  // Of points on one another one name is shown; all of them are in the picture's description.
  const apart = (a: (typeof points)[number], b: (typeof points)[number]) =>
    Math.abs(y(a.y) - y(b.y)) > 13 || Math.abs(x(a.x) - x(b.x)) > 80
  const named = points.filter((p, i) => points.slice(0, i).every((q) => apart(p, q)))
  return (
    <section aria-label={line.label}>
      <h2 className="text-lead font-semibold first-letter:uppercase">{line.label}</h2>
      <p className="text-note text-slate">
        {points.length} groups: slope <span className="font-mono text-ink">{slope.value.toPrecision(4)}</span>
        {slope.standard_error != null && ` ± ${slope.standard_error.toPrecision(2)} (standard error)`},
        intercept <span className="font-mono text-ink">{intercept.value.toPrecision(3)}</span>{' '}
        {setUnit(line.y_unit)}
        {intercept.standard_error != null && ` ± ${intercept.standard_error.toPrecision(2)}`}
      </p>
      <svg
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        className="mt-1 block w-full max-w-2xl"
        role="img"
        aria-label={points.map((p) => `${p.group} ${p.x.toPrecision(3)}, ${p.y.toPrecision(3)}`).join('; ')}
      >
        <path d={`M${LEFT} ${TOP}V${BASE}H${RIGHT}`} className="fill-none stroke-pencil" />
        {along.map((t) => (
          <g key={t.value}>
            <path d={`M${x(t.value)} ${BASE}v${t.long ? 8 : 5}`} className="stroke-pencil" />
            {t.long && (
              <text x={x(t.value)} y={BASE + 22} textAnchor="middle" className={NUMBER}>
                {t.text}
              </text>
            )}
          </g>
        ))}
        {across.map((t) => (
          <g key={t.value}>
            <path d={`M${LEFT} ${y(t.value)}h${t.long ? -8 : -5}`} className="stroke-pencil" />
            {t.long && (
              <text x={LEFT - 12} y={y(t.value) + 4} textAnchor="end" className={NUMBER}>
                {t.text}
              </text>
            )}
          </g>
        ))}
        <path
          d={`M${x(ends[0])} ${y(at(ends[0]))}L${x(ends[1])} ${y(at(ends[1]))}`}
          className="stroke-copper"
          strokeWidth="2"
        />
        {points.map((p) => (
          <circle key={p.group} cx={x(p.x)} cy={y(p.y)} r="4.5" className="fill-ink" />
        ))}
        {named.map((p) => {
          const right = x(p.x) > RIGHT - 90
          return (
            <text
              key={p.group}
              x={x(p.x) + (right ? -9 : 9)}
              y={y(p.y) + 4}
              textAnchor={right ? 'end' : 'start'}
              className="fill-slate text-[12px]"
            >
              {p.group}
            </text>
          )
        })}
      </svg>
      <p className="text-note text-slate">
        along: {setUnit(line.x_unit) || 'a plain number'} · up: {setUnit(line.y_unit) || 'a plain number'}
      </p>
    </section>
  )
}

const NUMBER = 'fill-slate font-mono text-[12px]'

/** Where values stand between two ends of the picture, and the ticks of that axis. */
function axis(values: readonly number[], from: number, to: number) {
  const [low, high] = [Math.min(...values), Math.max(...values)]
  const pad = (high - low || Math.abs(high) || 1) * 0.1
  const step = niceStep(low - pad, high + pad, 10)
  const place = (v: number) => from + ((v - low + pad) / (high - low + 2 * pad)) * (to - from)
  const marks = ticks(low - pad, high + pad, step, 2)
  return [place, marks.map((t) => ({ ...t, text: t.value.toFixed(decimalsOf(step)) }))] as const
}
