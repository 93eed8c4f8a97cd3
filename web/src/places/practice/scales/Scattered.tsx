import type { MeniscusTask, ReadingScatter } from '@/api'
import { setNumber, StateMark } from '@/ui'

/** How far off each reading was, in divisions, on one true scale; what that says of the reader. */
export function Scattered({
  tasks,
  read,
  scatter,
  last,
}: {
  tasks: readonly MeniscusTask[]
  read: readonly string[]
  scatter: ReadingScatter
  last: MeniscusTask | undefined
}) {
  if (read.length === 0) {
    return (
      <section aria-label="how to read" className="text-slate">
        <p className="mb-2">
          Bring the eye level with the meniscus: the rings of the marks become straight lines, and front and
          back cover each other.
        </p>
        <p>
          Read the lowest point of the meniscus, and estimate between the marks. From above a burette seems to
          have delivered less.
        </p>
      </section>
    )
  }
  const off = scatter.off.at(-1)
  const fair = off != null && Math.abs(off) <= 0.25
  return (
    <section aria-label="how it was read">
      {last && (
        <p role="status" className="mb-3 flex items-baseline gap-3">
          <StateMark kind={fair ? 'settled' : 'doubtful'} />
          <span>
            It stood at{' '}
            <b className="font-mono font-semibold">{setNumber(last.stands.toFixed(last.decimals))}</b>{' '}
            {last.unit}; you read <span className="font-mono">{setNumber(read.at(-1) ?? '')}</span>
            {scatter.decimals_right.at(-1) === false &&
              `: here it takes ${last.decimals} decimal${last.decimals === 1 ? '' : 's'}`}
            .
          </span>
        </p>
      )}
      <Dots off={scatter.off} />
      <p className="mt-2">
        {biasWords(scatter.bias)}
        {scatter.scatter != null &&
          ` Your readings vary by ${divisions(scatter.scatter)} (standard deviation).`}
      </p>
      {read.length === tasks.length && <p className="mt-1 font-semibold">{inAll(scatter)}</p>}
    </section>
  )
}

const WIDTH = 480

function Dots({ off }: { off: readonly (number | null)[] }) {
  const x = (divisions: number) => WIDTH / 2 + Math.max(-1.6, Math.min(1.6, divisions)) * (WIDTH / 3.4)
  return (
    <svg
      viewBox={`0 0 ${WIDTH} 74`}
      role="img"
      aria-label={`off, in divisions: ${off.map((o) => (o === null ? 'no number' : o.toFixed(1))).join(', ')}`}
      className="block w-full max-w-xl"
    >
      <rect x={x(-0.25)} width={x(0.25) - x(-0.25)} y="6" height="36" className="fill-teal-wash" />
      <path d={`M10 42H${WIDTH - 10}`} className="stroke-pencil" />
      {[-1.5, -1, -0.5, 0, 0.5, 1, 1.5].map((t) => (
        <g key={t}>
          <path d={`M${x(t)} 42v${Number.isInteger(t) ? 9 : 5}`} className="stroke-pencil" />
          {Number.isInteger(t) && (
            <text x={x(t)} y="68" textAnchor="middle" className="fill-slate font-mono text-[13px]">
              {t === 0 ? 'right' : setNumber(String(t))}
            </text>
          )}
        </g>
      ))}
      {off.map((o, i) =>
        o === null ? null : (
          <path
            key={i}
            d={`M${x(o) - 7} ${30 - (i % 4) * 5}q7 8 14 0`}
            fill="none"
            strokeWidth={i === off.length - 1 ? 3.2 : 1.8}
            className={i === off.length - 1 ? 'stroke-copper' : 'stroke-ink'}
          />
        ),
      )}
    </svg>
  )
}

const divisions = (of: number) => (of < 1 ? `${of.toFixed(2)} of a division` : `${of.toFixed(1)} divisions`)

/** A tenth of a division is more than anybody's eye. */
function biasWords(bias: number): string {
  if (Math.abs(bias) < 0.1) return 'On average you read neither high nor low.'
  return `On average you read ${divisions(Math.abs(bias))} too ${bias > 0 ? 'high' : 'low'}.`
}

function inAll(scatter: ReadingScatter): string {
  const near = scatter.off.filter((o) => o !== null && Math.abs(o) <= 0.25).length
  const decimals = scatter.decimals_right.filter(Boolean).length
  const { length } = scatter.off
  return `${near} of ${length} within a quarter of a division, ${decimals} with the right number of decimals.`
}
