import type { StateKind } from '@/ui'
import { levelsOf, spectrumEnds, type Judged } from './stacks'
import { answerState } from '@/words'

const WIDTH = 1180
const BASE = 104
const fill: Record<StateKind, string> = {
  settled: 'fill-teal',
  doubtful: 'fill-amber',
  wrong: 'fill-magenta',
  waiting: 'fill-slate',
}
const LABELS = [0.01, 0.02, 0.05, 0.1, 0.2, 0.5, 1, 2, 5, 10, 20, 50, 100, 200, 500, 1000]

/** All answers on one line, each divided by the value recomputed from that group's own readings. */
export function Spectrum({ judged, chosen }: { judged: readonly Judged[]; chosen: readonly Judged[] }) {
  const placed = judged.flatMap((j) =>
    j.verdict.comparison && j.verdict.comparison.ratio > 0 ? [{ j, ratio: j.verdict.comparison.ratio }] : [],
  )
  const [low, high] = spectrumEnds(placed.map((p) => p.ratio))
  const x = (ratio: number) =>
    16 + ((Math.log(ratio) - Math.log(low)) / (Math.log(high) - Math.log(low))) * (WIDTH - 32)
  const levels = levelsOf(
    placed.map((p) => x(p.ratio)),
    12,
  )
  const minor = LABELS.flatMap((v) =>
    v < 1000 ? [1, 1.1, 1.2, 1.3, 1.4, 1.5, 1.6, 1.7, 1.8, 1.9].map((f) => v * f) : [],
  )
  return (
    <figure className="mb-6">
      <svg viewBox={`0 0 ${WIDTH} 140`} className="block w-full" role="img" aria-label={spoken(judged)}>
        <path d={`M16 ${BASE}H${WIDTH - 16}`} className="stroke-pencil" />
        {minor
          .filter((v) => v >= low && v <= high)
          .map((v) => (
            <path key={v} d={`M${x(v)} ${BASE}v4`} className="stroke-pencil opacity-60" />
          ))}
        {LABELS.filter((v) => v >= low && v <= high).map((v) => (
          <g key={v}>
            <path d={`M${x(v)} ${BASE}v9`} className="stroke-pencil" />
            <text x={x(v)} y={BASE + 26} textAnchor="middle" className="fill-slate font-mono text-[13px]">
              {v}
            </text>
          </g>
        ))}
        <path d={`M${x(1) - 6} ${BASE - 70}v-9h12v9`} fill="none" className="stroke-teal" strokeWidth="2.5" />
        <path d={`M${x(1)} ${BASE - 70}V${BASE}`} className="stroke-teal opacity-40" />
        {placed.map(({ j, ratio }, i) => {
          const on = chosen.includes(j)
          return (
            <circle
              key={j.row.group}
              cx={x(ratio)}
              cy={BASE - 9 - (levels[i] ?? 0) * 13}
              r={on ? 6.2 : 5}
              className={`${fill[answerState(j.verdict)]} ${on ? 'stroke-copper' : ''}`}
              strokeWidth={on ? 3 : 0}
            />
          )
        })}
      </svg>
      <figcaption className="text-note text-slate">
        each answer divided by the value recomputed from that group's own readings; the caliper closes at 1
      </figcaption>
    </figure>
  )
}

function spoken(judged: readonly Judged[]): string {
  if (judged.length === 0) return 'no answers yet'
  return judged.map((j) => `${j.row.name} ${j.verdict.comparison?.ratio_shown ?? 'not compared'}`).join(', ')
}
