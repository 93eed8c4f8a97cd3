import { useState } from 'react'
import type { Choosable, Flag, ReadingSpec } from '@/api'
import { numberOf, StateMark } from '@/ui'
import { findingWords } from '@/words'
import { Flags } from './Flags'
import { isGlass } from './glass'
import { ScaleWindow, TubeWindow } from './InstrumentWindow'
import { NumberPad } from './NumberPad'
import { OnWhich } from './OnWhich'
import { remember, rememberedFor } from './remembered'
import type { Standing } from '../standing'
import { looked, type Typed } from './typed'
import type { Correction } from '../useBench'
import { useDraft } from '../useDraft'
import { Why } from './Why'

/** Within this time of an entry, its correction is a slip of the finger: nobody asks why. */
const AT_ONCE_MS = 60_000

export interface TakenHere {
  text: string
  on?: string
  steps?: string[]
  flags?: Flag[]
}

/** One reading being typed, under the scale of its instrument; corrected with a reason. */
export function ReadingPad({
  spec,
  standing,
  choices,
  weighsAgain,
  time,
  offered,
  draftKey,
  onLeave,
  onEnter,
}: {
  spec: ReadingSpec
  standing: Standing | undefined
  choices: readonly Choosable[]
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
  const [flags, setFlags] = useState<readonly Flag[]>(standing?.flags ?? [])
  const own = choices.find((c) => c.name === on)
  const scale = {
    ...spec,
    decimals: own?.decimals ?? spec.decimals,
    instrument: own?.name ?? spec.instrument,
  }
  const typed = looked(text, scale)
  const value = typed.kind === 'number' ? typed.value : undefined
  const atOnce = standing !== undefined && time - standing.at < AT_ONCE_MS
  // A second weighing leaves the first one standing beside it; a slip of writing takes its place.
  const again = weighsAgain && standing !== undefined && reason === 'measured again'
  const because = reason.trim()
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
          {counted && (
            <button
              type="button"
              className="action mt-2 min-h-20 w-full text-title"
              onClick={() => {
                setText(String((numberOf(text) ?? 0) + 1))
              }}
            >
              one drop
            </button>
          )}
          {balance && <Flags flags={flags} onFlags={setFlags} />}
          {standing && (
            <Why
              before={standing.text}
              reason={atOnce && !weighsAgain ? null : reason}
              onReason={setReason}
              onLeave={onLeave}
            />
          )}
        </>
      }
      extra={
        <>
          <Looked typed={typed} />
          {steps.length > 0 && (
            <p className="text-slate">
              so far <span className="font-mono text-ink">{steps.join(', ')}</span>
            </p>
          )}
          {balance && typed.kind === 'number' && !standing && (
            <button
              type="button"
              className="min-h-12 underline underline-offset-4"
              onClick={() => {
                setSteps([...steps, text.trim()])
                setText('')
              }}
            >
              Not enough yet: note it and add more
            </button>
          )}
          {offered !== undefined && text !== offered && (
            <button
              type="button"
              className="action min-h-14"
              onClick={() => {
                setText(offered)
              }}
            >
              By its tag it weighs {offered} {spec.unit}
            </button>
          )}
          {spec.nominal != null && text !== spec.nominal && (
            <button
              type="button"
              className="action min-h-14"
              onClick={() => {
                setText(spec.nominal ?? '')
              }}
            >
              It delivered its mark, {spec.nominal} {spec.unit}
            </button>
          )}
        </>
      }
      keep="Keep"
      canKeep={typed.kind === 'number' && (!standing || atOnce || because !== '')}
      onText={setText}
      onKeep={() => {
        const before = again ? [...standing.steps, standing.text] : steps
        const taken: TakenHere = { text: text.trim() }
        if (on !== null) taken.on = on
        if (before.length > 0) taken.steps = [...before]
        if (flags.length > 0) taken.flags = [...flags]
        const correction = standing && { supersedes: standing.id, ...(because !== '' && { reason: because }) }
        onEnter(taken, correction)
        setText('')
        setReason('')
      }}
    />
  )
}

/** How many digits this instrument gives, and where the last one comes from. */
function digitsAsked(spec: ReadingSpec): string {
  if (spec.nominal != null) return 'filled to its mark, not read'
  if (spec.decimals === 0) return 'a whole number'
  const count = `${spec.decimals} decimal${spec.decimals === 1 ? '' : 's'}`
  return isGlass(spec)
    ? `${count}, the last one estimated between the marks`
    : `${count}, as the display shows`
}

/** What the device itself can say of the digits; marked, never blocked. */
function Looked({ typed }: { typed: Typed }) {
  switch (typed.kind) {
    case 'empty':
      return null
    case 'no-number':
      return (
        <p className="text-magenta">
          <StateMark kind="wrong" word="no number" /> This is no number yet: digits, one point or comma.
        </p>
      )
    case 'number':
      return typed.findings.map((f) => (
        <p key={f.kind} className="text-amber-text">
          <StateMark kind="doubtful" /> {findingWords(f)}
        </p>
      ))
  }
}
