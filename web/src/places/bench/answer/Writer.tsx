import type { BenchView } from '@/api'

/** Who of the group writes on this device: it stands beside what is entered. Nobody has to say. */
export function Writer({
  view,
  writer,
  onWriter,
}: {
  view: BenchView
  writer: number | null
  onWriter: (person: number | null) => void
}) {
  if (view.people.length === 0) return null
  return (
    <label className="flex items-center gap-2">
      writing
      <select
        className="min-h-11 border-b border-rule bg-transparent text-body text-ink"
        value={writer === null ? '' : String(writer)}
        onChange={(event) => {
          onWriter(event.target.value === '' ? null : Number(event.target.value))
        }}
      >
        <option value="">{view.group}</option>
        {view.people.map((p) => (
          <option key={p.id} value={p.id}>
            {p.name}
          </option>
        ))}
      </select>
    </label>
  )
}
