import { SIEVES, type Sieve } from './sieves'

/** Which groups are shown: all, or those that call, wait, are behind or want a look. Rows keep their order. */
export function Sieves({
  groups,
  chosen,
  onChoose,
}: {
  groups: Record<Sieve, ReadonlySet<number>>
  chosen: Sieve
  onChoose: (sieve: Sieve) => void
}) {
  return (
    <div
      role="group"
      aria-label="groups shown"
      className="mb-3 flex flex-wrap gap-x-5 pl-3 text-note print:hidden"
    >
      {SIEVES.map(({ kind, word }) => (
        <button
          key={kind}
          type="button"
          aria-pressed={kind === chosen}
          disabled={groups[kind].size === 0 && kind !== chosen}
          className="min-h-6 border-b-2 border-transparent text-slate hover:text-ink disabled:text-pencil aria-pressed:border-copper aria-pressed:font-semibold aria-pressed:text-ink"
          onClick={() => {
            onChoose(kind === chosen ? 'all' : kind)
          }}
        >
          <span className="font-mono">{groups[kind].size}</span> {word}
        </button>
      ))}
    </div>
  )
}
