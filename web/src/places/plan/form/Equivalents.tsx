import type { LedgerLine } from '@/api'
import { ticks } from '@/ui'

const WIDTH = 210
const at = (value: number, end: number) => 1 + (value / end) * (WIDTH - 14)

/** The scale over the column: equivalents of the limiting reagent. */
export function Scale({ end }: { end: number }) {
  const step = end > 20 ? 5 : end > 4 ? 0.5 : 0.1
  const figures = end > 4 ? [0, 1, 2, 3, 4].map((n) => n * Math.ceil(end / 5)) : [0, 0.5, 1]
  return (
    <svg width={WIDTH} height={26} aria-hidden="true" className="mt-1 block">
      <path d={`M1 16H${at(end, end)}`} className="stroke-pencil" />
      {ticks(0, end, step, 5).map((t) => (
        <path key={t.value} d={`M${at(t.value, end)} 16v${t.long ? 10 : 6}`} className="stroke-pencil" />
      ))}
      {figures.map((v) => (
        <text
          key={v}
          x={at(v, end)}
          y="11"
          textAnchor={v === 0 ? 'start' : 'middle'}
          className="fill-slate font-mono text-[11px]"
        >
          {v === 0 ? '0' : end > 4 ? v : v.toFixed(1)}
        </text>
      ))}
    </svg>
  )
}

/** One reagent on the scale, with the caliper over its band. */
export function Bar({ line, end }: { line: LedgerLine; end: number }) {
  const e = line.equivalents
  if (!e) return null
  const limits = line.role === 'limiting'
  return (
    <svg
      width={WIDTH}
      height={30}
      role="img"
      aria-label={`${e.planned.toFixed(2)} equivalents, between ${e.low.toFixed(2)} and ${e.high.toFixed(2)}`}
    >
      <rect
        x="1"
        y="10"
        width={at(e.planned, end) - 1}
        height="13"
        className={limits ? 'fill-copper' : 'fill-teal opacity-45'}
      />
      <path d={`M${at(1, end)} 0V30`} className="stroke-copper" strokeDasharray="2 3" />
      {e.high > e.low && (
        <path
          d={`M${at(e.low, end)} 8V3H${at(e.high, end)}V8`}
          fill="none"
          className="stroke-ink"
          strokeWidth="1.6"
        />
      )}
    </svg>
  )
}
