import { Label, Radio, RadioGroup } from '@headlessui/react'
import type { ReactNode } from 'react'
import { Failure } from '@/ui'

/** A question on which schools differ, beside its answers. */
export function Question({
  asks,
  error = null,
  children,
}: {
  asks: string
  error?: Error | null
  children: ReactNode
}) {
  return (
    <div className="grid gap-x-8 gap-y-2 border-t border-rule py-3 tablet:grid-cols-[15rem_minmax(0,1fr)]">
      <p className="pt-2 text-body">{asks}</p>
      <div>
        {children}
        {error && <Failure error={error}>Nothing was changed.</Failure>}
      </div>
    </div>
  )
}

interface Choice<V> {
  value: V
  name: string
  looks: string | null
}

/** Answers side by side, each as it looks on paper. */
export function Choices<V extends string>({
  label,
  value,
  of,
  onChoose,
}: {
  label: string
  value: V | null
  of: readonly Choice<V>[]
  onChoose: (value: V) => void
}) {
  return (
    <RadioGroup
      value={value}
      onChange={(chosen) => {
        if (chosen !== null && chosen !== value) onChoose(chosen)
      }}
    >
      <Label className="sr-only">{label}</Label>
      <div className="flex flex-wrap gap-2">
        {of.map((c) => (
          <Radio
            key={c.value}
            value={c.value}
            className="flex min-h-14 min-w-44 flex-1 cursor-pointer flex-col justify-center border border-rule bg-sheet px-3 py-1.5 data-checked:border-2 data-checked:border-copper data-checked:bg-copper-wash"
          >
            {c.looks !== null && <span className="font-mono text-body">{c.looks}</span>}
            <span className="text-note text-slate">{c.name}</span>
          </Radio>
        ))}
      </div>
    </RadioGroup>
  )
}
