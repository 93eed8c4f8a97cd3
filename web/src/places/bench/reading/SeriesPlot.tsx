import type { ReadingSpec } from '@/api'
import { decimalsOf, niceStep, numberOf, setNumber, ticks } from '@/ui'
import type { BenchNow } from '../standing'

/** A series as it grows: one reading against the other, true ticks on both axes. */
export function SeriesPlot({
  readings,
  of,
  now,
}: {
  readings: readonly ReadingSpec[]
  of: ReadingSpec
  now: BenchNow
}) {
  const x = readings.find((r) => r.reading === of.against)
  if (!x) return null
  const number = (symbol: string) => {
    const standing = now.readings[symbol]
    return standing && numberOf(standing.text)
  }
  const points = readings
    .filter((r) => r.reading === of.reading)
    .map((r) => [number(r.symbol.replace(of.reading, x.reading)), number(r.symbol)] as const)
    .filter((p): p is readonly [number, number] => p[0] !== undefined && p[1] !== undefined)
  if (points.length < 2) return null
  const width = 330
  const height = 190
  const [left, top, right, bottom] = [44, 10, 8, 34]
  const spread = (values: readonly number[]): [number, number] => {
    const [low, high] = [Math.min(...values), Math.max(...values)]
    const margin = (high - low || Math.abs(high) || 1) * 0.08
    return [low - margin, high + margin]
  }
  const [x0, x1] = spread(points.map((p) => p[0]))
  const [y0, y1] = spread(points.map((p) => p[1]))
  const px = (v: number) => left + ((v - x0) / (x1 - x0)) * (width - left - right)
  const py = (v: number) => height - bottom - ((v - y0) / (y1 - y0)) * (height - top - bottom)
  const [sx, sy] = [niceStep(x0, x1, 20), niceStep(y0, y1, 15)]
  const sorted = [...points].sort((a, b) => a[0] - b[0])
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      role="img"
      aria-label={`${of.short} against ${x.short}, ${points.length} points`}
      className="mb-4 block w-full max-w-lg"
    >
      <path d={`M${left} ${top}V${height - bottom}H${width - right}`} fill="none" className="stroke-pencil" />
      {ticks(x0, x1, sx, 5).map((t) => (
        <path
          key={t.value}
          d={`M${px(t.value)} ${height - bottom}v${t.long ? 8 : 4}`}
          className="stroke-pencil"
        />
      ))}
      {ticks(y0, y1, sy, 5).map((t) => (
        <path key={t.value} d={`M${left} ${py(t.value)}h${t.long ? -8 : -4}`} className="stroke-pencil" />
      ))}
      {ticks(x0, x1, sx, 5)
        .filter((t) => t.long)
        .map((t) => (
          <text
            key={t.value}
            x={px(t.value)}
            y={height - 14}
            textAnchor="middle"
            className="fill-slate font-mono text-[12px]"
          >
            {setNumber(t.value.toFixed(decimalsOf(sx)))}
          </text>
        ))}
      {ticks(y0, y1, sy, 5)
        .filter((t) => t.long)
        .map((t) => (
          <text
            key={t.value}
            x={left - 11}
            y={py(t.value) + 4}
            textAnchor="end"
            className="fill-slate font-mono text-[12px]"
          >
            {setNumber(t.value.toFixed(decimalsOf(sy)))}
          </text>
        ))}
      <path
        d={sorted.map((p, i) => `${i === 0 ? 'M' : 'L'}${px(p[0])} ${py(p[1])}`).join('')}
        fill="none"
        className="stroke-rule"
        strokeWidth="1.5"
      />
      {points.map((p, i) => (
        <circle key={i} cx={px(p[0])} cy={py(p[1])} r="3.5" className="fill-copper" />
      ))}
      <text x={left + 6} y={top + 8} className="fill-slate text-[12px]">
        {of.short.replace(/ \d+$/, '')}
        {of.unit !== '1' && ` / ${of.unit}`}
      </text>
      <text x={width - right} y={height - 2} textAnchor="end" className="fill-slate text-[12px]">
        {x.short.replace(/ \d+$/, '')} / {x.unit}
      </text>
    </svg>
  )
}
