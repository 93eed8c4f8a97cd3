import { niceStep, ticks } from './ticks'

/** A scale that drains: one tick a stretch of true time, what is left filled. */
export function Draining({ seconds, part, over }: { seconds: number; part: number; over: boolean }) {
  const width = 320
  const minutes = seconds / 60
  const step = niceStep(0, minutes, 30)
  const x = (m: number) => 2 + (m / minutes) * (width - 4)
  return (
    <svg
      viewBox={`0 0 ${width} 22`}
      className="block h-5 w-full"
      aria-hidden="true"
      preserveAspectRatio="none"
    >
      <rect
        x={2}
        width={Math.max(0, part) * (width - 4)}
        y="2"
        height="9"
        className={over ? 'fill-amber' : 'fill-teal-wash'}
      />
      <path d={`M2 11H${width - 2}`} className={over ? 'stroke-amber' : 'stroke-pencil'} />
      {ticks(0, minutes, step, 5).map((t) => (
        <path key={t.value} d={`M${x(t.value)} 11v${t.long ? 9 : 5}`} className="stroke-pencil" />
      ))}
    </svg>
  )
}
