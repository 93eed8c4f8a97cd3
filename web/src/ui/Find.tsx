/** A search field beside the head of a list. */
export function Find({
  label = 'find',
  wanted,
  onWanted,
}: {
  label?: string
  wanted: string
  onWanted: (wanted: string) => void
}) {
  return (
    <label className="flex min-w-0 items-baseline gap-2 text-note text-slate">
      {label}
      <input
        type="search"
        value={wanted}
        className="field w-full max-w-56 min-w-0"
        onChange={(event) => {
          onWanted(event.target.value)
        }}
      />
    </label>
  )
}
