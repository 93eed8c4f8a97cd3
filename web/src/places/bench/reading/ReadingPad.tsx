import { useState } from 'react'
import type { Choosable, Flag, ReadingSpec } from '@/api'
import { asksWhy, correctionOf, mayReplace, stepsBefore, takenHere, type TakenHere } from './correction'
import { Flags } from './Flags'
import { isGlass } from './glass'
import { ScaleWindow, TubeWindow } from './InstrumentWindow'
import { NumberPad } from './NumberPad'
import { OnWhich } from './OnWhich'
import { Known, Looked, NotEnough, OneDrop, SoFar } from './ReadingHelp'
import { remember, rememberedFor } from './remembered'
import { Speaking } from './Speaking'
import type { Filled } from '../standing'
import { looked } from './typed'
import type { Correction } from '../useBench'
import { useDraft } from '../useDraft'
import { Why } from './Why'

/** One reading being typed, under the scale of its instrument; corrected with a reason. */
export function ReadingPad({
  spec,
  standing,
  choices,
  speaking,
  weighsAgain,
  time,
  offered,
  draftKey,
  onLeave,
  onEnter,
}: {
  spec: ReadingSpec
  standing: Filled | undefined
  choices: readonly Choosable[]
  /** Instruments of the room that speak. */
  speaking: readonly string[]
  /** The step weighs until it is constant: what stands is the last weighing but one. */
  weighsAgain: boolean
  time: number
  /** What it weighs by its tag. */
  offered: string | undefined
  draftKey: string
  onLeave: () => void
  onEnter: (taken: TakenHere, correction?: Correction) => void
}) {
  const [text, setText] = useDraft(draftKey)
  const [reason, setReason] = useState('')
  const [on, setOn] = useState(() => standing?.on ?? rememberedFor(spec, choices))
  const [steps, setSteps] = useState<readonly string[]>(standing?.steps ?? [])
  const [sent, setSent] = useState<string | null>(null)
  const [flags, setFlags] = useState<readonly Flag[]>(standing?.flags ?? [])
  const scale = scaleOf(spec, choices, on)
  const typed = looked(text, scale)
  const value = typed.kind === 'number' ? typed.value : undefined
  const number = typed.kind === 'number' ? typed.number : text.trim()
  const replacing = { standing, weighsAgain, time, reason }
  const balance = spec.instrument_kind === 'balance'
  const counted = spec.instrument_kind === 'dropping-pipette' && spec.decimals === 0
  return (
    <NumberPad
      label={`${spec.label} · ${scale.instrument}`}
      unit={`${spec.unit}, ${digitsAsked(scale)}`}
      text={text}
      above={
        choices.length > 0 && (
          <OnWhich
            choices={choices}
            on={on}
            onChoose={(name) => {
              remember(spec, name)
              setOn(name)
            }}
          />
        )
      }
      beside={isGlass(spec) && <TubeWindow spec={scale} value={value} />}
      beneath={
        <>
          {!isGlass(spec) && !counted && <ScaleWindow spec={scale} value={value} />}
          {counted && <OneDrop text={text} onText={setText} />}
          {balance && <Flags flags={flags} onFlags={setFlags} />}
          {standing && (
            <Why
              before={standing.text}
              reason={asksWhy(replacing) ? reason : null}
              onReason={setReason}
              onLeave={onLeave}
            />
          )}
        </>
      }
      extra={
        <>
          {on !== null && speaking.includes(on) && (
            <Speaking
              name={on}
              unit={spec.unit}
              onTake={(digits) => {
                setText(digits)
                setSent(digits)
              }}
            />
          )}
          <Looked typed={typed} />
          <SoFar steps={steps} />
          <NotEnough
            can={spec.weighed_out && typed.kind === 'number' && !standing}
            onMore={() => {
              setSteps([...steps, number])
              setText('')
            }}
          />
          <Known words="Known mass" known={offered} unit={spec.unit} typed={text} onTake={setText} />
          <Known
            words="It delivered its mark,"
            known={spec.nominal}
            unit={spec.unit}
            typed={text}
            onTake={setText}
          />
        </>
      }
      keep="Keep"
      canKeep={typed.kind === 'number' && mayReplace(replacing)}
      onText={setText}
      onKeep={() => {
        onEnter(
          takenHere(number, on, stepsBefore(replacing, steps), flags, sent === text),
          correctionOf(replacing),
        )
        setText('')
        setReason('')
      }}
    />
  )
}

/** The reading as its instrument shows it: the one chosen, or that of the practical. */
function scaleOf(spec: ReadingSpec, choices: readonly Choosable[], on: string | null): ReadingSpec {
  const own = choices.find((c) => c.name === on)
  return own ? { ...spec, decimals: own.decimals, instrument: own.name } : spec
}

/** How many digits this instrument gives, and where the last one comes from. */
function digitsAsked(spec: ReadingSpec): string {
  if (spec.nominal != null) return 'filled to its mark, not read'
  if (spec.decimals === 0) return 'a whole number'
  const count = `${spec.decimals} decimal${spec.decimals === 1 ? '' : 's'}`
  if (spec.halves) return `${count}, to half a division: the last is 0 or 5`
  return isGlass(spec)
    ? `${count}, the last one estimated between the marks`
    : `${count}, as the display shows`
}
