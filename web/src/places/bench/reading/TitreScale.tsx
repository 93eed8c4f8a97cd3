import type { DeliveredTitre, Figure } from '@/api'
import { decimalsOf, niceStep, setNumber, ticks } from '@/ui'

/**
 * Titres as menisci on one true scale, the rough one hollow; the jaws of the caliper close around those that agree, or
 * stand open at the limit above the nearest.
 */
export function TitreScale({ titres, limit }: { titres: readonly DeliveredTitre[]; limit: Figure }) {
  const width = 330
  const base = 58
  const values = titres.map((t) => ({ ...t, value: Number(t.text) }))
  const allowed = limit.value
  const counted = values.filter((t) => !t.rough)
  const all = counted.length > 0 ? counted : values
  const lowest = Math.min(...all.map((t) => t.value))
  const highest = Math.max(...all.map((t) => t.value))
  const margin = Math.max(allowed, (highest - lowest) * 0.3)
  const low = lowest - margin
  const high = highest + margin
  const x = (v: number) => 10 + ((v - low) / (high - low)) * (width - 20)
  const step = niceStep(low, high, 24)
  const inside = values.filter((t) => t.value >= low && t.value <= high)
  const jaws = values.filter((t) => t.agrees).map((t) => t.value)
  const closed = jaws.length > 1
  const [from, to] = closed
    ? [Math.min(...jaws), Math.max(...jaws)]
    : [(lowest + highest - allowed) / 2, (lowest + highest + allowed) / 2]
  const label = `titres ${titres.map((t) => t.text).join(', ')} on one scale; the limit is ${limit.text}`
  return (
    <svg
      viewBox={`0 0 ${width} 92`}
      role="img"
      aria-label={label}
      className="mt-2 block w-full max-w-md overflow-visible"
    >
      <path d={`M10 ${base}H${width - 10}`} className="stroke-pencil" />
      {ticks(low, high, step, 5).map((t) => (
        <path key={t.value} d={`M${x(t.value)} ${base}v${t.long ? 9 : 5}`} className="stroke-pencil" />
      ))}
      {ticks(low, high, step, 5)
        .filter((t) => t.long)
        .map((t) => (
          <text
            key={t.value}
            x={x(t.value)}
            y={base + 24}
            textAnchor="middle"
            className="fill-slate font-mono text-[13px]"
          >
            {setNumber(t.value.toFixed(decimalsOf(step)))}
          </text>
        ))}
      <path
        d={`M${x(from)} ${base - 2}V24H${x(to)}V${base - 2}`}
        fill="none"
        strokeWidth="2.5"
        strokeDasharray={closed ? undefined : '4 4'}
        className={closed ? 'stroke-teal' : 'stroke-pencil'}
      />
      {inside.map((t) => (
        <path
          key={t.trial}
          d={`M${x(t.value) - 8} ${base - 12}q8 9 16 0`}
          fill="none"
          strokeWidth={t.rough ? 1.2 : 2.6}
          className={t.agrees ? 'stroke-teal' : 'stroke-copper'}
        />
      ))}
      {together(inside, x).map((label) => (
        <text
          key={label.text}
          x={label.x}
          y="15"
          textAnchor="middle"
          className="fill-ink font-mono text-[14px]"
        >
          {label.text}
        </text>
      ))}
    </svg>
  )
}

/** The numbers of the trials above their menisci; those that stand nearly on one place share a label. */
function together(titres: readonly { trial: number; value: number }[], x: (v: number) => number) {
  const out: { x: number; text: string }[] = []
  for (const t of [...titres].sort((a, b) => a.value - b.value)) {
    const last = out.at(-1)
    if (last && x(t.value) - last.x < 26) {
      last.text = `${last.text}, ${t.trial}`
      last.x = (last.x + x(t.value)) / 2
    } else out.push({ x: x(t.value), text: String(t.trial) })
  }
  return out
}
