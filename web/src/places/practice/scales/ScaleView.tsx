import { inWords, marksOf, type Scale } from './meniscus'

const WIDTH = 190
const HEIGHT = 300
const TUBE = { left: 20, right: 110 }

/**
 * A stretch of a scale with the meniscus in it. `eye` is how far the eye is above the meniscus, in hands: off the level the
 * marks bend into rings, and the meniscus seems to stand elsewhere.
 */
export function ScaleView({
  scale,
  stands,
  thread = false,
  eye = 0,
  parallax = 0,
  label,
}: {
  scale: Scale
  stands: number
  /** The thread of a thermometer: no meniscus. */
  thread?: boolean
  eye?: number
  parallax?: number
  label: string
}) {
  const seems = stands + parallax * eye
  const half = 8 * scale.division
  const [low, high] = [stands - half, stands + half]
  const y = (value: number) => {
    const part = (value - low) / (high - low)
    return (scale.zero_at_top ? part : 1 - part) * HEIGHT
  }
  const ring = 7 * eye
  const at = y(seems)
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      role="img"
      aria-label={`${label}: ${inWords(scale, seems)}`}
      className="block h-[16rem] w-auto max-w-full border border-rule bg-sheet"
    >
      {thread ? (
        <path d={`M65 ${at}V${HEIGHT}`} className="stroke-magenta" strokeWidth="10" />
      ) : (
        <>
          <path
            d={`M${TUBE.left} ${at - 9}Q65 ${at + 9} ${TUBE.right} ${at - 9}V${HEIGHT}H${TUBE.left}Z`}
            className="fill-teal-wash"
          />
          <path
            d={`M${TUBE.left} ${at - 9}Q65 ${at + 9} ${TUBE.right} ${at - 9}`}
            fill="none"
            className="stroke-teal"
            strokeWidth="2.5"
          />
        </>
      )}
      <path
        d={`M${TUBE.left} 0V${HEIGHT}M${TUBE.right} 0V${HEIGHT}`}
        className="stroke-pencil"
        strokeWidth="1.5"
      />
      {marksOf(scale, low, high).map((m) => {
        const width = m.number !== null ? 90 : m.long ? 56 : 36
        const end = TUBE.left + width
        const mark = y(m.value)
        return (
          <g key={m.value}>
            <path d={`M${TUBE.left} ${mark}H${end}`} className="stroke-ink" strokeWidth="1.2" />
            {m.number !== null && (
              <>
                {/* The back of a ring that goes all the way round. */}
                {Math.abs(ring) > 0.4 && (
                  <path
                    d={`M${TUBE.left} ${mark}Q65 ${mark - 2 * ring} ${TUBE.right} ${mark}`}
                    fill="none"
                    className="stroke-pencil"
                    strokeDasharray="3 3"
                  />
                )}
                <text x="122" y={mark + 7} className="fill-ink font-mono text-[20px]">
                  {m.number}
                </text>
              </>
            )}
          </g>
        )
      })}
    </svg>
  )
}
