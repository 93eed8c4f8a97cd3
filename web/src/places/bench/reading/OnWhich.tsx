import { Label, Radio, RadioGroup } from '@headlessui/react'
import type { Choosable } from '@/api'

/** Which instrument of the room a reading is taken on; this device remembers it. */
export function OnWhich({
  choices,
  on,
  onChoose,
}: {
  choices: readonly Choosable[]
  on: string | null
  onChoose: (name: string) => void
}) {
  return (
    <RadioGroup
      value={on}
      onChange={(name) => {
        if (name !== null) onChoose(name)
      }}
      className="mb-2"
    >
      <Label className="sr-only">taken on</Label>
      <div className="flex flex-wrap gap-1.5">
        {choices.map((c) => (
          <Radio
            key={c.name}
            value={c.name}
            className="flex min-h-12 cursor-pointer items-center border border-rule bg-sheet px-3 text-body data-checked:border-2 data-checked:border-copper data-checked:bg-copper-wash data-checked:font-semibold"
          >
            {c.name}
          </Radio>
        ))}
      </div>
    </RadioGroup>
  )
}
