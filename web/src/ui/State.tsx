/** The states of a value, each with a shape, a word and a tone. */
export type StateKind = 'settled' | 'doubtful' | 'wrong' | 'waiting'

const tone: Record<StateKind, string> = {
  settled: 'text-teal',
  doubtful: 'text-amber',
  wrong: 'text-magenta',
  waiting: 'text-slate',
}

const shape: Record<StateKind, string> = {
  settled: 'M2 6q7 7 14 0',
  doubtful: 'M2 4q7 6 14 0M2 9q7 6 14 0',
  wrong: 'M1 8h4M7 8h4M13 8h4',
  waiting: 'M9 2v12',
}

/** A meniscus, a doubled meniscus, a broken line, a single tick. The word is for those who cannot see the shape. */
export function StateMark({ kind, word }: { kind: StateKind; word?: string }) {
  return (
    <svg
      viewBox="0 0 18 16"
      width="18"
      height="16"
      role="img"
      aria-label={word ?? kind}
      className={`inline ${tone[kind]}`}
    >
      <path d={shape[kind]} fill="none" stroke="currentColor" strokeWidth="2.2" />
    </svg>
  )
}

/** The key to the shapes, at the foot of a page. */
export function StateKey({ words }: { words: Partial<Record<StateKind, string>> }) {
  const kinds = Object.keys(words) as StateKind[]
  return (
    <ul className="flex flex-wrap gap-x-6 gap-y-1 text-note text-slate">
      {kinds.map((kind) => (
        <li key={kind} className="flex items-center gap-1.5">
          <StateMark kind={kind} /> {words[kind]}
        </li>
      ))}
    </ul>
  )
}
