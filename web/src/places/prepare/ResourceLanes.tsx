import type { PlannedLesson, Turn } from '@/api'

/** One lane for each thing that is shared, on the scale of the groups above: who has it when. */
export function ResourceLanes({
  lesson,
  groups,
  end,
}: {
  lesson: PlannedLesson
  groups: readonly string[]
  /** Where the scale ends, min. */
  end: number
}) {
  return lesson.shared.flatMap((shared, busiest) =>
    Array.from({ length: shared.count }, (_, i) => i + 1).map((unit) => (
      <Lane
        key={`${shared.name} ${unit}`}
        name={shared.count > 1 ? `${shared.name} ${unit}` : shared.name}
        uses={lesson.turns.filter((t) => t.resource === shared.name && t.unit === unit)}
        groups={groups}
        end={end}
        decides={busiest === 0}
      />
    )),
  )
}

function Lane({
  name,
  uses,
  groups,
  end,
  decides,
}: {
  name: string
  uses: readonly Turn[]
  groups: readonly string[]
  end: number
  decides: boolean
}) {
  const rows = sideBySide(uses)
  return (
    <>
      <span className="self-center truncate pr-2 text-slate">{name}</span>
      <div className="border-b border-rule" role="img" aria-label={`${name}: ${uses.length} turns`}>
        {rows.map((row, i) => (
          <div key={i} className="relative h-5">
            {row.map((turn) => (
              <span
                key={`${turn.group} ${turn.from}`}
                title={`${groups[turn.group] ?? ''}: minute ${turn.from} to ${turn.to}`}
                className={`absolute inset-y-px overflow-hidden border-l border-paper px-0.5 leading-tight whitespace-nowrap ${decides ? 'border-b-2 border-b-copper bg-copper/25 text-ink' : 'bg-teal-wash text-ink'}`}
                style={{
                  left: `${(100 * turn.from) / end}%`,
                  width: `${(100 * (turn.to - turn.from)) / end}%`,
                }}
              >
                {groups[turn.group]}
              </span>
            ))}
          </div>
        ))}
      </div>
    </>
  )
}

/** Turns at one thing that serves several at once, in as few rows as do not overlap; one row where nobody comes. */
function sideBySide(uses: readonly Turn[]): Turn[][] {
  const rows: Turn[][] = [[]]
  for (const turn of [...uses].sort((a, b) => a.from - b.from)) {
    const free = rows.find((row) => (row.at(-1)?.to ?? 0) <= turn.from)
    if (free) free.push(turn)
    else rows.push([turn])
  }
  return rows
}
