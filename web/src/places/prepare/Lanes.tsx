import type { LessonPiece, PlannedLesson } from '@/api'
import { clockTime, niceStep, ticks } from '@/ui'
import { ResourceLanes } from './ResourceLanes'

/** One lane a group on one true scale of time: what is shared is filled, what is waited for stays empty. */
export function Lanes({
  lesson,
  groups,
  begins,
}: {
  lesson: PlannedLesson
  groups: readonly string[]
  /** When the lesson begins, ms; none where it is not planned. */
  begins: number | null
}) {
  const { timetable, minutes, pieces, shared } = lesson
  if (timetable == null || timetable.makespan === 0) return null
  const end = Math.max(timetable.makespan, minutes)
  const bottleneck = shared[0]?.name
  return (
    <div className="mt-2 grid grid-cols-[5.5rem_minmax(0,1fr)] gap-y-0.5 text-note">
      <span />
      <Scale end={end} begins={begins} />
      {timetable.starts.map((starts, group) => (
        <Lane
          key={group}
          name={groups[group] ?? `group ${group + 1}`}
          pieces={pieces}
          starts={starts}
          end={end}
          minutes={minutes}
          bottleneck={bottleneck}
        />
      ))}
      <ResourceLanes lesson={lesson} groups={groups} end={end} />
      <span />
      <p className="mt-1 flex flex-wrap gap-x-5 text-slate">
        {bottleneck !== undefined && (
          <span>
            <span className="mr-1.5 inline-block h-3 w-6 bg-copper align-middle" />
            {bottleneck}
            {shared.length > 1 && ', which decides'}
          </span>
        )}
        {shared.slice(1).map((s) => (
          <span key={s.name}>
            <span className="mr-1.5 inline-block h-3 w-6 border-b-4 border-teal bg-teal-wash align-middle" />
            {s.name}
          </span>
        ))}
        <span>
          <span className="mr-1.5 inline-block h-3 w-6 border border-pencil align-middle" />
          at the bench
        </span>
        <span>empty: waiting</span>
      </p>
      <span />
      <p className="flex flex-wrap gap-x-5 text-slate">
        {pieces
          .filter((piece, i) => piece.step !== pieces[i - 1]?.step)
          .map((piece) => (
            <span key={piece.step}>
              {piece.step + 1} {piece.title}
            </span>
          ))}
      </p>
    </div>
  )
}

function Scale({ end, begins }: { end: number; begins: number | null }) {
  const step = niceStep(0, end, 9)
  return (
    <div className="relative h-7" aria-hidden="true">
      {ticks(0, end, step / 5, 5).map((t) => (
        <span
          key={t.value}
          className={`absolute bottom-0 w-px bg-pencil ${t.long ? 'h-3' : 'h-1.5'}`}
          style={{ left: `${(100 * t.value) / end}%` }}
        />
      ))}
      {ticks(0, end, step, 1).map((t) => (
        <span
          key={t.value}
          className={`absolute top-0 text-slate ${t.value === 0 ? '' : '-translate-x-1/2'}`}
          style={{ left: `${(100 * t.value) / end}%` }}
        >
          {begins == null ? t.value : clockTime(begins + t.value * 60_000)}
        </span>
      ))}
    </div>
  )
}

function Lane({
  name,
  pieces,
  starts,
  end,
  minutes,
  bottleneck,
}: {
  name: string
  pieces: readonly LessonPiece[]
  starts: readonly number[]
  end: number
  minutes: number
  bottleneck: string | undefined
}) {
  const last = pieces.length - 1
  const through = (starts[last] ?? 0) + (pieces[last]?.minutes ?? 0)
  return (
    <>
      <span className="self-center truncate pr-2 font-semibold">{name}</span>
      <div
        className="relative h-6 border-b border-rule"
        role="img"
        aria-label={`${name}: through in minute ${through}`}
      >
        {pieces.map(
          (piece, i) =>
            piece.minutes > 0 && (
              <span
                key={i}
                title={`${piece.title}: minute ${starts[i] ?? 0} to ${(starts[i] ?? 0) + piece.minutes}${piece.holds.length > 0 ? `, ${piece.holds.join(' and ')}` : ''}`}
                className={`absolute inset-y-0.5 overflow-hidden px-0.5 whitespace-nowrap ${look(piece, bottleneck)}`}
                style={{
                  left: `${(100 * (starts[i] ?? 0)) / end}%`,
                  width: `${(100 * piece.minutes) / end}%`,
                }}
              >
                {piece.step + 1}
              </span>
            ),
        )}
        <span
          className="absolute inset-y-0 border-l-2 border-dashed border-ink"
          style={{ left: `${(100 * minutes) / end}%` }}
        />
      </div>
    </>
  )
}

function look(piece: LessonPiece, bottleneck: string | undefined): string {
  if (bottleneck !== undefined && piece.holds.includes(bottleneck))
    return 'bg-copper text-paper font-semibold'
  if (piece.holds.length > 0) return 'border-b-4 border-teal bg-teal-wash text-ink'
  return 'border border-pencil text-slate'
}
