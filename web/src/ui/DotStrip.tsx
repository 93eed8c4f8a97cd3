import { decimalsOf, niceStep, ticks } from './ticks'

export interface Dot {
  value: number
  tone: 'plain' | 'doubtful' | 'wrong'
  label: string
}

const fill: Record<Dot['tone'], string> = {
  plain: 'fill-ink opacity-70',
  doubtful: 'fill-amber',
  wrong: 'fill-magenta',
}

/**
 * The class as a distribution: one dot a group over a graduated line, the expected band behind. What lies beyond the
 * line is a pointer at its end, never squeezed in.
 */
export function DotStrip({
  dots,
  low,
  high,
  band,
  unit,
  width = 112,
  labelled = false,
}: {
  dots: readonly Dot[]
  low: number
  high: number
  band?: readonly [number, number]
  unit: string
  width?: number
  labelled?: boolean
}) {
  const x = (value: number) => 3 + ((value - low) / (high - low)) * (width - 6)
  const step = niceStep(low, high, labelled ? 10 : 8)
  const base = 22
  const inside = dots.filter((d) => d.value >= low && d.value <= high)
  const below = dots.filter((d) => d.value < low)
  const above = dots.filter((d) => d.value > high)
  const words = dots.map((d) => d.label).join(', ')
  const marks = ticks(low, high, step, 5)
  return (
    <svg
      width={width}
      height={labelled ? 44 : 32}
      viewBox={`0 0 ${width} ${labelled ? 44 : 32}`}
      role="img"
      aria-label={dots.length === 0 ? 'no values yet' : `${dots.length} values: ${words}`}
      className="block h-auto max-w-full"
    >
      {band && (
        <rect
          x={x(Math.max(low, band[0]))}
          width={x(Math.min(high, band[1])) - x(Math.max(low, band[0]))}
          y={base - 10}
          height={10}
          className="fill-teal-wash"
        />
      )}
      <path d={`M3 ${base}H${width - 3}`} className="stroke-pencil" />
      {marks.map((t) => (
        <path key={t.value} d={`M${x(t.value)} ${base}v${t.long ? 8 : 5}`} className="stroke-pencil" />
      ))}
      {labelled &&
        marks.map((t, i) =>
          i % 2 === 0 ? (
            <text
              key={t.value}
              x={x(t.value)}
              y={base + 20}
              textAnchor="middle"
              className="fill-slate font-mono text-[11px]"
            >
              {t.value.toFixed(decimalsOf(step))}
              {i === 0 ? ` ${unit}` : ''}
            </text>
          ) : null,
        )}
      {inside.map((d, i) => (
        <circle key={i} cx={x(d.value)} cy={base - 4} r={3.4} className={fill[d.tone]} />
      ))}
      {below.length > 0 && (
        <path d={`M6 ${base - 9}l-5 5l5 5`} className="fill-none stroke-magenta" strokeWidth="2" />
      )}
      {above.length > 0 && (
        <path d={`M${width - 6} ${base - 9}l5 5l-5 5`} className="fill-none stroke-magenta" strokeWidth="2" />
      )}
    </svg>
  )
}
