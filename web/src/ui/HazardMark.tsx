import type { Pictogram } from '@/api'

const words: Record<Pictogram, string> = {
  flame: 'flammable',
  oxidiser: 'oxidising',
  corrosion: 'corrosive',
  skull: 'toxic',
  exclamation: 'harmful or irritant',
  health: 'serious health hazard',
  environment: 'hazardous to the environment',
}

/** What stands inside the diamond, on a field of 100 by 100. */
const inside: Record<Pictogram, string> = {
  flame:
    'M50 24c3 10-6 13-4 21c-5-2-6-6-6-9c-7 7-11 14-9 22c2 9 10 14 19 14s18-6 19-15c1-7-4-11-5-17c-2 2-3 4-3 7c-5-6-4-16-11-23M32 76h36',
  oxidiser:
    'M50 22c2 8-5 10-3 16c-4-1-5-4-5-6c-5 5-7 9-6 14M50 46a13 13 0 1 0 .1 0M58 34c5 4 6 8 6 12M36 76h28',
  corrosion:
    'M26 34l16-6l3 7l-16 6zM45 35c3 4 2 8 4 12M50 53v4M48 62h6M24 66h30v6H24zM74 34l-16-6l-3 7l16 6zM62 42c0 5 2 8 0 12M58 60c4-3 10-3 14 0v10H58z',
  skull:
    'M50 26c-12 0-19 7-19 17c0 7 4 11 8 13v6h22v-6c4-2 8-6 8-13c0-10-7-17-19-17M42 44a4 4 0 1 0 .1 0M58 44a4 4 0 1 0 .1 0M47 56l3-5l3 5M30 66l40 12M70 66L30 78',
  exclamation: 'M50 24v32M50 66v6',
  health:
    'M50 24a7 7 0 1 0 .1 0M34 76V54c0-8 7-12 16-12s16 4 16 12v22M50 46l3 7l7-2l-4 6l5 5l-7 1l-1 7l-5-5l-6 4l2-7l-6-4l7-2z',
  environment:
    'M24 72h52M34 72V44M34 56l-8-8M34 50l7-7M34 44l-5-8M50 66c6-9 16-9 22 0c-6 8-16 8-22 0M72 66l6-5v10zM57 64h1',
}

/** A pictogram of the globally harmonised system: a red diamond, drawn here. */
export function HazardMark({ kind, size = 34 }: { kind: Pictogram; size?: number }) {
  return (
    <svg
      viewBox="0 0 100 100"
      width={size}
      height={size}
      role="img"
      aria-label={words[kind]}
      className="inline-block"
    >
      <path d="M50 4L96 50L50 96L4 50Z" className="fill-white stroke-ghs" strokeWidth="6" />
      <path
        d={inside[kind]}
        fill="none"
        className="stroke-black"
        strokeWidth={kind === 'exclamation' ? 9 : 4}
        strokeLinecap="round"
        strokeLinejoin="round"
      />
    </svg>
  )
}
