const REASONS = ['misread', 'mistyped', 'measured again'] as const

/** Why an earlier value is corrected: one tap. It stays in the record, struck through. */
export function Why({
  before,
  reason,
  onReason,
  onLeave,
}: {
  before: string
  /** None where the entry is so fresh that nobody asks. */
  reason: string | null
  onReason: (reason: string) => void
  onLeave: () => void
}) {
  return (
    <fieldset className="mt-2">
      <legend className="text-body">
        Instead of <s className="font-mono">{before}</s>, which stays in the record
        {reason === null ? '.' : '. Why?'}
      </legend>
      <div className="mt-1 grid grid-cols-3 gap-1.5">
        {reason !== null &&
          REASONS.map((r) => (
            <button
              key={r}
              type="button"
              aria-pressed={reason === r}
              className="min-h-14 border border-rule bg-sheet px-2 text-body aria-pressed:border-2 aria-pressed:border-teal aria-pressed:bg-teal-wash"
              onClick={() => {
                onReason(r)
              }}
            >
              {r}
            </button>
          ))}
      </div>
      <button
        type="button"
        className="min-h-12 pr-2 text-body underline underline-offset-4"
        onClick={onLeave}
      >
        Leave it as it is
      </button>
    </fieldset>
  )
}
