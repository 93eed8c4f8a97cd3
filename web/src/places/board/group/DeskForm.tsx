import { useState } from 'react'
import type { Entered, EntryBody } from '@/api'
import { Failure, setUnit } from '@/ui'
import { useEnterFor } from './useGroup'

/** Why an instructor mends something, most often. */
const REASONS = ['misread', 'mistyped', 'told me at the bench', 'from their paper']

/** Enters for a group, mends what stands, or takes it out. The earlier value stays, struck through, with the reason. */
export function DeskForm({
  run,
  group,
  label,
  entered,
  made,
  struck,
  unit,
  choices,
  units,
  onDone,
}: {
  run: number
  group: number
  label: string
  entered: Entered | undefined
  made: (text: string, unit: string) => EntryBody
  struck: EntryBody
  /** The one unit that it has. */
  unit?: string
  /** What can be chosen. */
  choices?: readonly string[]
  /** Units to choose from. */
  units?: readonly string[]
  onDone: () => void
}) {
  const [text, setText] = useState(entered?.text ?? '')
  const [chosenUnit, setChosenUnit] = useState(entered?.unit ?? units?.[0] ?? unit ?? '')
  const [reason, setReason] = useState('')
  const enter = useEnterFor(run, group)
  const why = entered === undefined || reason.trim() !== ''
  const send = (entry: EntryBody) => {
    enter.mutate(
      { entry, ...(entered && { supersedes: entered.id }), ...(reason.trim() !== '' && { reason }) },
      { onSuccess: onDone },
    )
  }
  return (
    <form
      aria-label={`${entered ? 'edit' : 'enter'} ${label}`}
      className="border-l-3 border-copper bg-sheet py-2 pr-3 pl-4"
      onSubmit={(event) => {
        event.preventDefault()
        send(made(text, chosenUnit))
      }}
    >
      <div className="flex flex-wrap items-end gap-x-4 gap-y-2 text-note text-slate">
        <label>
          <span className="mb-0.5 block">
            {choices && choices.length > 0 ? 'seen' : 'value, with all its digits'}
          </span>
          {choices && choices.length > 0 ? (
            <select
              className="field text-body text-ink"
              value={text}
              required
              onChange={(event) => {
                setText(event.target.value)
              }}
            >
              <option value="" />
              {choices.map((c) => (
                <option key={c}>{c}</option>
              ))}
            </select>
          ) : (
            <input
              className="field w-36 font-mono text-body text-ink"
              value={text}
              maxLength={500}
              required
              autoFocus
              onChange={(event) => {
                setText(event.target.value)
              }}
            />
          )}
        </label>
        {unit !== undefined && <span className="pb-3 text-body text-ink">{setUnit(unit)}</span>}
        {units && (
          <label>
            <span className="mb-0.5 block">unit</span>
            <select
              className="field text-body text-ink"
              value={chosenUnit}
              onChange={(event) => {
                setChosenUnit(event.target.value)
              }}
            >
              <option value="">none</option>
              {units.map((u) => (
                <option key={u} value={u}>
                  {setUnit(u)}
                </option>
              ))}
            </select>
          </label>
        )}
        <label className="min-w-40 grow">
          <span className="mb-0.5 block">why{entered ? '' : ' (may be left out)'}</span>
          <input
            className="field w-full text-body text-ink"
            value={reason}
            maxLength={200}
            onChange={(event) => {
              setReason(event.target.value)
            }}
          />
        </label>
      </div>
      <p className="mt-1 flex flex-wrap gap-x-4 text-note">
        {REASONS.map((r) => (
          <button
            key={r}
            type="button"
            className="min-h-6 text-copper-text underline underline-offset-4"
            onClick={() => {
              setReason(r)
            }}
          >
            {r}
          </button>
        ))}
      </p>
      <p className="mt-1 flex flex-wrap items-center gap-x-6">
        <button type="submit" className="action" disabled={!why || text.trim() === '' || enter.isPending}>
          {entered ? 'Correct it' : 'Enter it'}
        </button>
        {entered && (
          <button
            type="button"
            className="min-h-11 font-semibold text-magenta underline underline-offset-4 disabled:text-pencil"
            disabled={!why || enter.isPending}
            onClick={() => {
              send(struck)
            }}
          >
            Take it out
          </button>
        )}
        {!why && <span className="text-note text-slate">Say why; the old value stays beside it.</span>}
      </p>
      {enter.isError && <Failure error={enter.error} />}
    </form>
  )
}
