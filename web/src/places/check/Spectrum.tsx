import type { SlipTick } from '@/api'
import type { StateKind } from '@/ui'
import { answerState, slipName } from '@/words'
import { labelledOf, levelsOf, linesOf, spectrumEnds, type Judged } from './stacks'

const WIDTH = 1180
const BASE = 122
const TOP = 18
/** Labelled ticks beyond which a line is no longer read. */
const MOST = 7
const fill: Record<StateKind, string> = {
  settled: 'fill-teal',
  doubtful: 'fill-amber',
  wrong: 'fill-magenta',
  waiting: 'fill-slate',
}
const LABELS = [0.01, 0.02, 0.05, 0.1, 0.2, 0.5, 1, 2, 5, 10, 20, 50, 100, 200, 500, 1000]

/** About how long a label is. */
const widthOf = (slip: SlipTick['slip']) => 12 + 7.3 * slipName(slip).length

/**
 * All answers on one line, each divided by the value recomputed from that group's own readings; where slips would put them
 * as labelled ticks. A slip that explains somebody's answer stands in ink, the others in pencil.
 */
export function Spectrum({
  judged,
  chosen,
  common,
}: {
  judged: readonly Judged[]
  chosen: readonly Judged[]
  common: readonly SlipTick[]
}) {
  const placed = judged.flatMap((j) =>
    j.verdict.comparison && j.verdict.comparison.ratio > 0 ? [{ j, ratio: j.verdict.comparison.ratio }] : [],
  )
  const slips = labelledOf(judged, common, MOST)
  const [low, high] = spectrumEnds([...placed.map((p) => p.ratio), ...slips.map((s) => s.ratio)])
  const x = (ratio: number) =>
    16 + ((Math.log(ratio) - Math.log(low)) / (Math.log(high) - Math.log(low))) * (WIDTH - 32)
  const levels = levelsOf(
    placed.map((p) => x(p.ratio)),
    12,
  )
  const inOrder = [...slips].sort((a, b) => a.ratio - b.ratio)
  // A label stands right of its tick where there is room for it.
  const isRight = (s: (typeof slips)[number]) => x(s.ratio) + widthOf(s.slip) < WIDTH - 10
  const labels = inOrder.map((s) =>
    isRight(s)
      ? ([x(s.ratio), x(s.ratio) + widthOf(s.slip)] as const)
      : ([x(s.ratio) - widthOf(s.slip), x(s.ratio)] as const),
  )
  // No label runs through the caliper, which stands on the second line.
  const crosses = (label: readonly [number, number]) => label[0] < x(1) + 10 && x(1) - 10 < label[1]
  const lines = linesOf(labels).map((line, i) => {
    const label = labels[i]
    return line > 0 && label && crosses(label) ? 2.2 : line
  })
  const minor = LABELS.flatMap((v) =>
    v < 1000 ? [1, 1.1, 1.2, 1.3, 1.4, 1.5, 1.6, 1.7, 1.8, 1.9].map((f) => v * f) : [],
  )
  const isChosen = (j: Judged) => chosen.some((c) => c.sheet.key === j.sheet.key)
  return (
    <figure className="mb-5">
      <svg viewBox={`0 0 ${WIDTH} 158`} className="block w-full" role="img" aria-label={spoken(judged)}>
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
        {inOrder.map((s, i) => {
          const right = isRight(s)
          const y = TOP + (lines[i] ?? 0) * 19
          return (
            <g key={s.slip}>
              <path
                d={`M${x(s.ratio)} ${y - 10}V${BASE}`}
                className={s.named ? 'stroke-copper' : 'stroke-pencil opacity-70'}
                strokeWidth={s.named ? 2 : 1}
                strokeDasharray={s.named ? undefined : '3 4'}
              />
              <text
                x={x(s.ratio) + (right ? 6 : -6)}
                y={y}
                textAnchor={right ? 'start' : 'end'}
                className={`text-[14px] ${s.named ? 'fill-copper-text font-semibold' : 'fill-slate'}`}
              >
                {slipName(s.slip)}
              </text>
            </g>
          )
        })}
        <path d={`M${x(1) - 7} ${BASE - 92}v-9h14v9`} fill="none" className="stroke-teal" strokeWidth="2.5" />
        <path d={`M${x(1)} ${BASE - 92}V${BASE}`} className="stroke-teal opacity-40" />
        {placed.map(({ j, ratio }, i) => {
          const on = isChosen(j)
          const named = j.verdict.value.kind === 'wrong' && j.verdict.diagnosis.named.length > 0
          return (
            <circle
              key={j.sheet.key}
              cx={x(ratio)}
              cy={BASE - 9 - (levels[i] ?? 0) * 13}
              r={on ? 6.2 : 5}
              className={`${named ? 'fill-copper' : fill[answerState(j.verdict)]} ${on ? 'stroke-ink' : ''}`}
              strokeWidth={on ? 2 : 0}
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
  return judged
    .map((j) => `${j.sheet.name} ${j.verdict.comparison?.ratio_shown ?? 'not compared'}`)
    .join(', ')
}
