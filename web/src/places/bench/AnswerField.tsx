import { Radio, RadioGroup } from '@headlessui/react'
import { useState } from 'react'
import type { Asked } from '@/api'
import { setUnit } from '@/ui'
import { KeptLine } from './KeptLine'
import { NumberPad } from './NumberPad'
import type { Standing } from './standing'
import { numberOf } from './typed'
import { useDraft } from './useDraft'

/** A result that the group worked out: a number, and its unit, which is part of the answer. */
export function AnswerField({
  asked,
  standing,
  active,
  closed,
  draftKey,
  onActivate,
  onLeave,
  onEnter,
}: {
  asked: Asked
  standing: Standing | undefined
  active: boolean
  closed: boolean
  draftKey: string
  onActivate: () => void
  onLeave: () => void
  onEnter: (text: string, unit: string) => void
}) {
  const [text, setText] = useDraft(draftKey)
  const [unit, setUnitChosen] = useState<string | null>(null)
  if (!active) {
    if (!standing) {
      return (
        <button
          type="button"
          disabled={closed}
          className="min-h-14 border-t border-rule text-left text-slate"
          onClick={onActivate}
        >
          {asked.label}: not yet
        </button>
      )
    }
    return (
      <KeptLine
        label={asked.label}
        standing={standing}
        state="settled"
        change="Answer again"
        closed={closed}
        onChange={onActivate}
      />
    )
  }
  const isNumber = numberOf(text) !== undefined
  return (
    <NumberPad
      label={asked.label}
      unit={unit === null ? 'no unit yet' : setUnit(unit)}
      text={text}
      beneath={
        <RadioGroup
          value={unit}
          aria-label="unit"
          className="mt-2 flex flex-wrap gap-1.5"
          onChange={(chosen) => {
            setUnitChosen(chosen)
          }}
        >
          {asked.units.map((u) => (
            <Radio
              key={u}
              value={u}
              className="grid min-h-14 min-w-14 cursor-pointer place-items-center border border-rule bg-sheet px-3 data-checked:border-2 data-checked:border-teal data-checked:bg-teal-wash data-checked:font-semibold"
            >
              {setUnit(u) || 'no unit'}
            </Radio>
          ))}
        </RadioGroup>
      }
      extra={
        <>
          {text.trim() !== '' && !isNumber && (
            <p className="text-magenta">This is no number yet: digits, one point or comma.</p>
          )}
          {isNumber && unit === null && <p className="text-slate">In which unit?</p>}
          {standing && (
            <button type="button" className="min-h-14 underline underline-offset-4" onClick={onLeave}>
              Leave it as it is
            </button>
          )}
        </>
      }
      keep="Send"
      canKeep={isNumber && unit !== null}
      onText={setText}
      onKeep={() => {
        onEnter(text.trim(), unit ?? '')
        setText('')
      }}
    />
  )
}
