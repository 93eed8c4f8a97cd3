import { Radio, RadioGroup } from '@headlessui/react'
import { useState } from 'react'
import type { Asked } from '@/api'
import { setUnit, written, type StateKind } from '@/ui'
import { KeptLine, OpenLine } from '../outbox/KeptLine'
import { NumberPad } from '../reading/NumberPad'
import { CommaAsked } from '../reading/ReadingHelp'
import type { Filled } from '../standing'
import { useDraft } from '../useDraft'

/** A result as it was sent. */
export function AnswerLine({
  asked,
  standing,
  state,
  writing,
  closed,
  onChange,
}: {
  asked: Asked
  standing: Filled | undefined
  /** How it is, as far as anybody has said; settled where nobody has. */
  state: StateKind
  writing: boolean
  closed: boolean
  onChange: () => void
}) {
  if (!standing) {
    return <OpenLine label={asked.label} writing={writing} closed={closed} onChoose={onChange} />
  }
  const reagent = asked.reagents.find((r) => r.symbol === standing.text)
  return (
    <KeptLine
      label={asked.label}
      standing={reagent ? { ...standing, text: reagent.name } : standing}
      state={state}
      inWords={asked.answer === 'limiting' || asked.answer === 'words'}
      change="Answer again"
      closed={closed || writing}
      onChange={onChange}
    />
  )
}

interface PadProps {
  asked: Asked
  standing: Filled | undefined
  draftKey: string
  onLeave: () => void
  onEnter: (text: string, unit: string) => void
}

/** An answer: a number with its unit, a formula, one of the reagents, or a reason in words. */
export function AnswerPad(props: PadProps) {
  switch (props.asked.answer) {
    case 'number':
      return <NumberAnswer {...props} />
    case 'formula':
    case 'words':
      return <WrittenAnswer {...props} />
    case 'limiting':
      return <ReagentAnswer {...props} />
  }
}

/** The unit is part of the answer. */
function NumberAnswer({ asked, standing, draftKey, onLeave, onEnter }: PadProps) {
  const [text, setText] = useDraft(draftKey)
  const [unit, setUnitChosen] = useState<string | null>(null)
  const got = written(text)
  const isNumber = got.kind === 'number'
  // A unit typed with the number is the unit of the answer.
  const beside = isNumber && got.unit !== '' ? got.unit : unit
  return (
    <NumberPad
      label={asked.label}
      unit={beside === null ? 'no unit yet' : setUnit(beside)}
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
            <Radio key={u} value={u} className={CHOICE}>
              {setUnit(u) || 'no unit'}
            </Radio>
          ))}
        </RadioGroup>
      }
      extra={
        <>
          {got.kind === 'asked' && <CommaAsked of={got} />}
          {text.trim() !== '' && got.kind === 'none' && (
            <p className="text-magenta">This is no number yet: digits, one point or comma.</p>
          )}
          {isNumber && beside === null && <p className="text-slate">In which unit?</p>}
          <Leave standing={standing} onLeave={onLeave} />
        </>
      }
      keep="Send"
      canKeep={isNumber && beside !== null}
      onText={setText}
      onKeep={() => {
        onEnter(text.trim(), unit ?? '')
        setText('')
      }}
    />
  )
}

const CHOICE =
  'grid min-h-14 min-w-14 cursor-pointer place-items-center border border-rule bg-sheet px-3 data-checked:border-2 data-checked:border-teal data-checked:bg-teal-wash data-checked:font-semibold'

function Leave({ standing, onLeave }: Pick<PadProps, 'standing' | 'onLeave'>) {
  if (!standing) return null
  return (
    <button type="button" className="min-h-14 underline underline-offset-4" onClick={onLeave}>
      Leave it as it is
    </button>
  )
}

/** A formula, capitals and all, or a reason in a sentence or two: typed on the device's own keyboard. */
function WrittenAnswer({ asked, standing, draftKey, onLeave, onEnter }: PadProps) {
  const [text, setText] = useDraft(draftKey)
  const inWords = asked.answer === 'words'
  const field = {
    value: text,
    onChange: (event: { target: { value: string } }) => {
      setText(event.target.value)
    },
  }
  return (
    <form
      className="flex flex-col gap-3 border-t border-ink py-4"
      onSubmit={(event) => {
        event.preventDefault()
        onEnter(text.trim(), '')
        setText('')
      }}
    >
      <label className="flex flex-col gap-1">
        {asked.label}
        {inWords ? (
          <textarea {...field} className="field min-h-32" maxLength={500} rows={4} />
        ) : (
          <input
            {...field}
            className="field min-h-14 font-mono text-title"
            maxLength={200}
            autoCapitalize="off"
            autoComplete="off"
            spellCheck={false}
          />
        )}
      </label>
      <p className="text-body text-slate">
        {inWords ? 'A sentence or two, in your own words.' : 'As on paper, capitals too: MgCl2, CaSO4·2H2O'}
      </p>
      <button type="submit" className="action min-h-14" disabled={text.trim() === ''}>
        Send
      </button>
      <Leave standing={standing} onLeave={onLeave} />
    </form>
  )
}

/** Which of the reagents. */
function ReagentAnswer({ asked, standing, onLeave, onEnter }: PadProps) {
  const [chosen, setChosen] = useState<string | null>(null)
  return (
    <div className="flex flex-col gap-3 border-t border-ink py-4">
      <RadioGroup
        value={chosen}
        aria-label={asked.label}
        className="flex flex-wrap gap-1.5"
        onChange={(symbol) => {
          setChosen(symbol)
        }}
      >
        {asked.reagents.map((r) => (
          <Radio key={r.symbol} value={r.symbol} className={CHOICE}>
            {r.name}
          </Radio>
        ))}
      </RadioGroup>
      <button
        type="button"
        className="action min-h-14"
        disabled={chosen === null}
        onClick={() => {
          if (chosen !== null) onEnter(chosen, '')
        }}
      >
        Send
      </button>
      <Leave standing={standing} onLeave={onLeave} />
    </div>
  )
}
