import type { DaysOff } from '@/api'
import { dayOf, monthsOf, schoolYear } from './year'

const WIDTH = 1000

/** A school year as a rule: a tick a week, a long one a month, and what is off laid along it. */
export function YearRule({ daysOff }: { daysOff: readonly DaysOff[] }) {
  const { from, days } = schoolYear(new Date(), daysOff)
  const x = (day: number) => (day / days) * WIDTH
  const inside = daysOff.filter((d) => d.from <= d.to && dayOf(d.to) >= from && dayOf(d.from) < from + days)
  return (
    <svg
      viewBox={`0 0 ${WIDTH} 70`}
      className="mb-8 w-full max-w-[70rem]"
      role="img"
      aria-label={`the school year, with ${inside.length} times off`}
    >
      <path d={`M0 30H${WIDTH}`} className="stroke-ink" />
      {Array.from({ length: Math.floor(days / 7) + 1 }, (_, week) => (
        <path key={week} d={`M${x(week * 7)} 30v7`} className="stroke-pencil" />
      ))}
      {monthsOf(from, days).map((month) => (
        <g key={month.day}>
          <path d={`M${x(month.day)} 30v16`} className="stroke-ink" />
          <text x={x(month.day) + 4} y="60" className="fill-slate" fontSize="14">
            {month.name}
          </text>
        </g>
      ))}
      {inside.map((off) => {
        const start = Math.max(0, dayOf(off.from) - from)
        const end = Math.min(days, dayOf(off.to) - from + 1)
        return (
          <rect
            key={`${off.name} ${off.from} ${off.to}`}
            x={x(start)}
            y="12"
            width={Math.max(2, x(end) - x(start))}
            height="18"
            className="fill-copper"
          >
            <title>{`${off.name}: ${off.from} to ${off.to}`}</title>
          </rect>
        )
      })}
    </svg>
  )
}
