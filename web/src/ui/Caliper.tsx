import { decimalsOf, niceStep, ticks } from './ticks'

/**
 * The two-jaw caliper, at true width: the jaws close around the interval that the typed digits mean; the mark is the
 * recomputed value with what an answer may be off, either way.
 */
export function Caliper({
  from,
  to,
  mark,
  tolerance,
  unit,
  right,
  width = 520,
}: {
  from: number
  to: number
  mark: number
  tolerance: number
  unit: string
  right: boolean
  width?: number
}) {
  const ends = [from, to, mark - tolerance, mark + tolerance]
  const margin = (Math.max(...ends) - Math.min(...ends)) * 0.12
  const low = Math.min(...ends) - margin
  const high = Math.max(...ends) + margin
  const x = (value: number) => 12 + ((value - low) / (high - low)) * (width - 24)
  const step = niceStep(low, high, 20)
  const marks = ticks(low, high, step, 5)
  const base = 52
  const jaws = [x(from), x(to)] as const
  const label = `answer between ${from.toPrecision(4)} and ${to.toPrecision(4)}, recomputed ${mark.toPrecision(4)} ${unit}`
  return (
    <svg viewBox={`0 0 ${width} 84`} width="100%" role="img" aria-label={label} className="max-w-full">
      <rect
        x={x(mark - tolerance)}
        width={Math.max(1.5, x(mark + tolerance) - x(mark - tolerance))}
        y={base - 16}
        height={16}
        className="fill-teal-wash"
      />
      <path d={`M${x(mark)} ${base - 20}V${base}`} className="stroke-teal" strokeWidth="2" />
      <path d={`M12 ${base}H${width - 12}`} className="stroke-pencil" />
      {marks.map((t) => (
        <path key={t.value} d={`M${x(t.value)} ${base}v${t.long ? 10 : 6}`} className="stroke-pencil" />
      ))}
      {marks
        .filter((t) => t.long)
        .map((t) => (
          <text
            key={t.value}
            x={x(t.value)}
            y={base + 25}
            textAnchor="middle"
            className="fill-slate font-mono text-[12px]"
          >
            {t.value.toFixed(decimalsOf(step))}
          </text>
        ))}
      <g className={right ? 'stroke-teal' : 'stroke-magenta'} fill="none" strokeWidth="2.5">
        <path d={`M${jaws[0]} ${base - 2}V20H${jaws[1]}V${base - 2}`} />
      </g>
    </svg>
  )
}
