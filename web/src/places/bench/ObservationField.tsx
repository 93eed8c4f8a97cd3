import { Label, Radio, RadioGroup } from '@headlessui/react'
import type { BenchView } from '@/api'
import type { Standing } from './standing'

/** Something to look at: the question, and what can be seen. Choosing is entering. */
export function ObservationField({
  asked,
  standing,
  closed,
  onChoose,
}: {
  asked: BenchView['observations'][number]
  standing: Standing | undefined
  closed: boolean
  onChoose: (choice: string) => void
}) {
  return (
    <RadioGroup
      value={standing?.text ?? null}
      disabled={closed}
      className="mb-5"
      onChange={(choice) => {
        if (choice !== null && choice !== standing?.text) onChoose(choice)
      }}
    >
      <Label className="mb-2 block">{asked.question}</Label>
      <div className="grid grid-cols-2 gap-2">
        {asked.choices.map((choice) => (
          <Radio
            key={choice}
            value={choice}
            className="flex min-h-14 cursor-pointer items-center gap-2 border border-rule bg-sheet px-3 data-checked:border-2 data-checked:border-teal data-checked:bg-teal-wash data-checked:font-semibold data-disabled:cursor-default"
          >
            {({ checked }) => (
              <>
                <svg
                  aria-hidden="true"
                  width="18"
                  height="12"
                  className={checked ? 'text-teal' : 'text-transparent'}
                >
                  <path d="M2 3q7 7 14 0" fill="none" stroke="currentColor" strokeWidth="2.4" />
                </svg>
                {choice}
              </>
            )}
          </Radio>
        ))}
      </div>
      {standing?.held && <HeldNote />}
    </RadioGroup>
  )
}

/** Beneath what has not arrived yet. */
export function HeldNote() {
  return <p className="mt-1 text-body text-amber-text">kept on this device; judged when connected</p>
}
