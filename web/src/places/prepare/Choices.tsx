import { useState } from 'react'
import type { PreparationView } from '@/api'
import { Failure } from '@/ui'
import { usePreparing } from './usePreparation'

/** What is put out on top. */
export function Choices({ of, run }: { of: PreparationView; run: number }) {
  const { choose } = usePreparing(run)
  const { choices } = of
  return (
    <div className="print:hidden">
      <div className="flex flex-wrap items-end gap-4">
        <Count
          key={`spare ${choices.spare_groups}`}
          label="spare groups"
          value={choices.spare_groups ?? 1}
          onChosen={(spare_groups) => {
            choose.mutate({ ...choices, spare_groups })
          }}
        />
        <Count
          key={`top ${choices.percent_on_top}`}
          label="% on top"
          value={choices.percent_on_top ?? 0}
          onChosen={(percent_on_top) => {
            choose.mutate({ ...choices, percent_on_top })
          }}
        />
      </div>
      {choose.isError && <Failure error={choose.error}>What was chosen before is kept.</Failure>}
    </div>
  )
}

/** A small number, kept when the field is left. */
export function Count({
  label,
  value,
  onChosen,
}: {
  label: string
  value: number
  onChosen: (value: number) => void
}) {
  const [text, setText] = useState(String(value))
  const typed = Number(text)
  const sound = /^\d{1,3}$/.test(text.trim())
  const keep = () => {
    if (sound && typed !== value) onChosen(typed)
  }
  return (
    <label className="flex flex-col gap-1">
      <span className="text-note text-slate">{label}</span>
      <input
        className="field w-20"
        inputMode="numeric"
        aria-invalid={!sound}
        value={text}
        onChange={(event) => {
          setText(event.target.value)
        }}
        onBlur={keep}
        onKeyDown={(event) => {
          if (event.key === 'Enter') keep()
        }}
      />
      {!sound && <span className="text-note text-amber-text">a whole number</span>}
    </label>
  )
}
