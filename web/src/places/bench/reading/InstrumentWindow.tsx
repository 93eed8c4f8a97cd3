import type { ReadingSpec } from '@/api'
import { decimalsOf, niceStep, setNumber, ticks } from '@/ui'

/** The stretch of scale that an instrument window shows, and the graduation of it. */
function stretchOf(spec: ReadingSpec): { low: number; high: number; step: number } {
  const [from = 0, to = 1] = spec.range
  const margin = (to - from) * 0.4
  const low = Math.max(0, from - margin)
  const high = to + margin
  return { low, high, step: Math.max(spec.resolution, niceStep(low, high, 32)) }
}

/** The scale of the instrument with the typed value on it. Ten times too much visibly leaves the window. */
export function ScaleWindow({ spec, value }: { spec: ReadingSpec; value: number | undefined }) {
  const { low, high, step } = stretchOf(spec)
  const width = 320
  const x = (v: number) => 6 + ((v - low) / (high - low)) * (width - 12)
  const [from = low, to = high] = spec.range
  const marks = ticks(low, high, step, 5)
  return (
    <svg
      viewBox={`0 0 ${width} 62`}
      className="mt-3 block w-full"
      role="img"
      aria-label={spoken(spec, value)}
    >
      <rect x={x(from)} width={x(to) - x(from)} y="16" height="14" className="fill-teal-wash" />
      <path d={`M6 30H${width - 6}`} className="stroke-pencil" />
      {marks.map((t) => (
        <path key={t.value} d={`M${x(t.value)} 30v${t.long ? 12 : 7}`} className="stroke-pencil" />
      ))}
      {labelled(marks, 5).map((t) => (
        <text
          key={t.value}
          x={x(t.value)}
          y="56"
          textAnchor="middle"
          className="fill-slate font-mono text-[13px]"
        >
          {setNumber(t.value.toFixed(decimalsOf(step)))}
        </text>
      ))}
      {value !== undefined && <Pointer at={value} low={low} high={high} x={x} width={width} />}
    </svg>
  )
}

function Pointer({
  at,
  low,
  high,
  x,
  width,
}: {
  at: number
  low: number
  high: number
  x: (v: number) => number
  width: number
}) {
  if (at < low)
    return <path d="M14 12l-9 9l9 9M5 21H34" fill="none" className="stroke-magenta" strokeWidth="2.5" />
  if (at > high) {
    const end = width - 5
    return (
      <path
        d={`M${end - 9} 12l9 9l-9 9M${end} 21h-29`}
        fill="none"
        className="stroke-magenta"
        strokeWidth="2.5"
      />
    )
  }
  return (
    <path
      d={`M${x(at)} 2V42M${x(at) - 7} 4q7 8 14 0`}
      fill="none"
      className="stroke-copper"
      strokeWidth="2.5"
    />
  )
}

/** A glass with the meniscus at the typed value, and its one mark where it has one. */
export function TubeWindow({ spec, value }: { spec: ReadingSpec; value: number | undefined }) {
  const { low, high, step } = stretchOf(spec)
  const height = 190
  const zeroAtTop = spec.instrument_kind === 'burette' || spec.instrument_kind === 'graduated-pipette'
  const y = (v: number) => {
    const part = (v - low) / (high - low)
    return 8 + (zeroAtTop ? part : 1 - part) * (height - 16)
  }
  const marks = ticks(low, high, step, 5)
  const mark = spec.nominal == null ? undefined : Number(spec.nominal.replace(',', '.'))
  const inside = value !== undefined && value >= low && value <= high
  return (
    <svg width="104" height={height} role="img" aria-label={spoken(spec, value)} className="block">
      {inside && (
        <rect x="1" width="46" y={y(value)} height={height - 1 - y(value)} className="fill-teal-wash" />
      )}
      <path d={`M1 1V${height - 1}H47V1`} fill="none" className="stroke-pencil" strokeWidth="1.5" />
      {mark === undefined &&
        marks.map((t) => (
          <path key={t.value} d={`M1 ${y(t.value)}h${t.long ? 22 : 12}`} className="stroke-pencil" />
        ))}
      {mark === undefined &&
        labelled(marks, 4).map((t) => (
          <text key={t.value} x="54" y={y(t.value) + 4} className="fill-slate font-mono text-[13px]">
            {t.value.toFixed(decimalsOf(step))}
          </text>
        ))}
      {mark !== undefined && (
        <>
          <path d={`M-1 ${y(mark)}h50`} className="stroke-ink" strokeWidth="2" />
          <text x="54" y={y(mark) + 4} className="fill-ink font-mono text-[13px]">
            {spec.nominal}
          </text>
        </>
      )}
      {inside && (
        <path d={`M1 ${y(value) - 4}q23 9 46 0`} fill="none" className="stroke-copper" strokeWidth="2.5" />
      )}
      {value !== undefined && !inside && (
        <path
          d={value > high === zeroAtTop ? `M15 ${height - 20}l9 10l9 -10` : 'M15 20l9 -10l9 10'}
          fill="none"
          className="stroke-magenta"
          strokeWidth="2.5"
        />
      )}
    </svg>
  )
}

/** At most `most` of the long ticks, evenly taken, carry figures. */
function labelled<T extends { long: boolean }>(marks: readonly T[], most: number): T[] {
  const long = marks.filter((t) => t.long)
  const every = Math.ceil(long.length / most)
  return long.filter((_, i) => i % every === 0)
}

function spoken(spec: ReadingSpec, value: number | undefined): string {
  const { low, high } = stretchOf(spec)
  const scale = `${spec.instrument}, scale from ${low.toFixed(spec.decimals)} to ${high.toFixed(spec.decimals)} ${spec.unit}`
  if (value === undefined) return scale
  return value < low || value > high
    ? `${scale}; the number is off the scale`
    : `${scale}; at ${value} ${spec.unit}`
}
