import type { ComputeResponse } from '@/api'
import { decimalsOf, niceStep, ticks } from '@/ui'

type CurveOf = Extract<ComputeResponse, { kind: 'acid_base'; ask: 'titration' }>

const WIDTH = 720
const HEIGHT = 400
const LEFT = 44
const TOP = 14
const BASE = HEIGHT - 48

/** pH against the volume run in, with every point of equivalence marked. */
export function Curve({ curve }: { curve: CurveOf }) {
  const end = curve.at.at(-1)
  if (end === undefined) {
    return <p className="text-slate">Say up to which volume the curve is to be drawn.</p>
  }
  const x = (volume: number) => LEFT + (volume / end) * (WIDTH - LEFT - 16)
  const [lowest, highest] = [Math.min(0, ...curve.ph), Math.max(14, ...curve.ph)]
  const y = (ph: number) => BASE - ((ph - lowest) / (highest - lowest)) * (BASE - TOP)
  const line = curve.at.map((v, i) => `${x(v).toFixed(1)} ${y(curve.ph[i] ?? 0).toFixed(1)}`)
  const points = curve.equivalence_volumes
    .map((volume, i) => ({ volume, ph: curve.ph_at_equivalence[i] ?? 0 }))
    .filter((p) => p.volume <= end)
  return (
    <figure>
      <dl className="mb-3 flex flex-wrap gap-x-10">
        {points.map((p, i) => (
          <div key={p.volume}>
            <dt className="text-note text-slate">
              equivalence{points.length > 1 ? `, proton ${i + 1}` : ''}
            </dt>
            <dd className="font-mono text-title text-teal">
              {p.volume.toFixed(2)}&#8239;{curve.unit} <span className="text-lead">pH {p.ph.toFixed(2)}</span>
            </dd>
          </div>
        ))}
      </dl>
      <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} className="block w-full" role="img" aria-label={spoken(curve)}>
        <Axes x={x} y={y} end={end} ends={[lowest, highest]} unit={curve.unit} />
        {points.map((p) => (
          <g key={p.volume}>
            <path d={`M${x(p.volume)} ${BASE}V${TOP}`} className="stroke-teal opacity-50" />
            <path d={`M${LEFT} ${y(p.ph)}H${x(p.volume)}`} className="stroke-teal opacity-50" />
          </g>
        ))}
        <path d={`M${line.join('L')}`} fill="none" className="stroke-copper" strokeWidth="2.5" />
        {points.map((p) => (
          <circle key={p.volume} cx={x(p.volume)} cy={y(p.ph)} r="4.5" className="fill-teal" />
        ))}
      </svg>
      <figcaption className="text-note text-slate">
        By exact charge balance at 25 °C; no activities, volumes additive. An indicator must change on the
        steep part.
      </figcaption>
    </figure>
  )
}

function Axes({
  x,
  y,
  end,
  ends,
  unit,
}: {
  x: (volume: number) => number
  y: (ph: number) => number
  end: number
  ends: readonly [number, number]
  unit: string
}) {
  const step = niceStep(0, end, 25)
  return (
    <g>
      <path d={`M${LEFT} ${TOP}V${BASE}H${WIDTH - 16}`} fill="none" className="stroke-pencil" />
      {ticks(ends[0], ends[1], 1, 2).map((t) => (
        <g key={t.value}>
          <path d={`M${LEFT} ${y(t.value)}h${t.long ? -9 : -5}`} className="stroke-pencil" />
          {t.long && (
            <text
              x={LEFT - 14}
              y={y(t.value) + 4}
              textAnchor="end"
              className="fill-slate font-mono text-[13px]"
            >
              {t.value}
            </text>
          )}
        </g>
      ))}
      {ticks(0, end, step, 5).map((t) => (
        <g key={t.value}>
          <path d={`M${x(t.value)} ${BASE}v${t.long ? 9 : 5}`} className="stroke-pencil" />
          {t.long && (
            <text
              x={x(t.value)}
              y={BASE + 25}
              textAnchor="middle"
              className="fill-slate font-mono text-[13px]"
            >
              {t.value.toFixed(decimalsOf(step))}
            </text>
          )}
        </g>
      ))}
      <text x={WIDTH - 16} y={BASE + 43} textAnchor="end" className="fill-slate text-[13px]">
        {unit} run in
      </text>
      <text x={LEFT + 8} y={TOP + 10} className="fill-slate text-[13px]">
        pH
      </text>
    </g>
  )
}

function spoken(curve: CurveOf): string {
  const points = curve.equivalence_volumes.map(
    (v, i) =>
      `equivalence at ${v.toFixed(2)} ${curve.unit}, pH ${(curve.ph_at_equivalence[i] ?? 0).toFixed(2)}`,
  )
  const first = curve.ph[0]?.toFixed(2) ?? ''
  const last = curve.ph.at(-1)?.toFixed(2) ?? ''
  return `titration curve from pH ${first} to pH ${last}; ${points.join('; ')}`
}
