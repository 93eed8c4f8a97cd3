import { Radio, RadioGroup } from '@headlessui/react'
import { useState } from 'react'
import type { Asked } from '@/api'
import { setUnit } from '@/ui'
import { KeptLine, OpenLine } from './KeptLine'
import { NumberPad } from './NumberPad'
import type { Standing } from './standing'
import { numberOf } from './typed'
import { useDraft } from './useDraft'

/** A result as the group sent it. */
export function AnswerLine({
  asked,
  standing,
  writing,
  closed,
  onChange,
}: {
  asked: Asked
  standing: Standing | undefined
  writing: boolean
  closed: boolean
  onChange: () => void
}) {
  if (!standing) {
    return <OpenLine label={asked.label} writing={writing} closed={closed} onChoose={onChange} />
  }
  return (
    <KeptLine
      label={asked.label}
      standing={standing}
      state="settled"
      change="Answer again"
      closed={closed || writing}
      onChange={onChange}
    />
  )
}

/** A result that the group worked out: a number, and its unit, which is part of the answer. */
export function AnswerPad({
  asked,
  standing,
  draftKey,
  onLeave,
  onEnter,
}: {
  asked: Asked
  standing: Standing | undefined
  draftKey: string
  onLeave: () => void
  onEnter: (text: string, unit: string) => void
}) {
  const [text, setText] = useDraft(draftKey)
  const [unit, setUnitChosen] = useState<string | null>(null)
  const isNumber = numberOf(text) !== undefined
  return (
    <NumberPad
      label={asked.label}
      unit={unit === null ? 'no unit yet' : setUnit(unit)}
      text={text}
      choices={
        <RadioGroup
          value={unit}
          aria-label="unit"
          className="flex flex-wrap gap-1.5"
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
