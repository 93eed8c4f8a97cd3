import { useState } from 'react'
import type { CheckView } from '@/api'
import { Failure, Tick } from '@/ui'
import { progress } from './stacks'
import { useRelease } from './useCheck'

/** Gives the sheets back: to all or to one group, with or without the recomputed values. */
export function Release({ view, onLeave }: { view: CheckView; onLeave: () => void }) {
  const release = useRelease(view.run.id)
  const [group, setGroup] = useState('')
  const [values, setValues] = useState(false)
  const { reviewed, of } = progress(view)
  const groups = view.rows.filter((r) => view.sheets.some((s) => s.group === r.group))
  return (
    <section aria-label="give back" className="mb-5 border-y border-copper py-4">
      <form
        className="flex flex-wrap items-end gap-x-8 gap-y-3"
        onSubmit={(event) => {
          event.preventDefault()
          release.mutate({ groups: group === '' ? [] : [Number(group)], with_values: values })
        }}
      >
        <label className="flex flex-col gap-1">
          give back to
          <select
            className="field"
            autoFocus
            value={group}
            onChange={(event) => {
              setGroup(event.target.value)
            }}
          >
            <option value="">all groups</option>
            {groups.map((r) => (
              <option key={r.group} value={r.group}>
                {r.name}
              </option>
            ))}
          </select>
        </label>
        <Tick ticked={values} onTick={setValues} className="min-h-11">
          with the recomputed values
        </Tick>
        <button type="submit" className="action" disabled={release.isPending || view.sheets.length === 0}>
          Give back
        </button>
        <button type="button" className="min-h-11 underline underline-offset-4" onClick={onLeave}>
          Not yet
        </button>
      </form>
      <p className="mt-2 text-note text-slate">
        {of - reviewed > 0
          ? `${of - reviewed} of ${of} answers have not been looked at; they go as they were judged. `
          : 'Every answer has been looked at. '}
        Students keep what they see now, even if you change marks later.
        {values && ' With the values given back, no new answers are taken.'}
      </p>
      {release.isSuccess && (
        <p role="status" className="mt-2">
          Given back: {release.data.sheets} {release.data.sheets === 1 ? 'sheet' : 'sheets'}.
        </p>
      )}
      {release.isError && <Failure error={release.error}>Nothing was given back.</Failure>}
    </section>
  )
}
