import { useState } from 'react'
import type { Finding, ReadingSpec } from '@/api'
import { StateMark } from '@/ui'
import { findingWords } from '@/words'
import { isGlass } from './glass'
import { ScaleWindow, TubeWindow } from './InstrumentWindow'
import { KeptLine, OpenLine } from './KeptLine'
import { NumberPad } from './NumberPad'
import type { Standing } from './standing'
import { looked, type Typed } from './typed'
import type { Correction } from './useBench'
import { useDraft } from './useDraft'

/** One reading as it stands: kept with its digits, what is odd about it, what was struck. */
export function ReadingLine({
  spec,
  standing,
  findings,
  writing,
  closed,
  onChange,
}: {
  spec: ReadingSpec
  standing: Standing | undefined
  findings: readonly Finding[]
  writing: boolean
  closed: boolean
  onChange: () => void
}) {
  if (!standing) {
    return <OpenLine label={spec.label} writing={writing} closed={closed} onChoose={onChange} />
  }
  return (
    <KeptLine
      label={`${spec.label} · ${spec.instrument}`}
      standing={standing}
      state={findings.length > 0 ? 'doubtful' : 'settled'}
      change="Correct it"
      closed={closed || writing}
      onChange={onChange}
    >
      {!standing.held &&
        findings.map((f, i) => (
          <p key={i} className="text-body text-amber-text">
            {findingWords(f)}
          </p>
        ))}
    </KeptLine>
  )
}

/** One reading being typed, under the scale of its instrument; corrected with a reason. */
export function ReadingPad({
  spec,
  standing,
  draftKey,
  onLeave,
  onEnter,
}: {
  spec: ReadingSpec
  standing: Standing | undefined
  draftKey: string
  onLeave: () => void
  onEnter: (text: string, correction?: Correction) => void
}) {
  const [text, setText] = useDraft(draftKey)
  const [reason, setReason] = useState('')
  const typed = looked(text, spec)
  const value = typed.kind === 'number' ? typed.value : undefined
  const because = reason.trim()
  return (
    <NumberPad
      label={`${spec.label} · ${spec.instrument}`}
      unit={`${spec.unit}, ${spec.nominal == null ? `${spec.decimals} decimals` : 'filled to its mark, not read'}`}
      text={text}
      beside={isGlass(spec) && <TubeWindow spec={spec} value={value} />}
      beneath={
        <>
          {!isGlass(spec) && <ScaleWindow spec={spec} value={value} />}
          {standing && <Why before={standing.text} reason={reason} onReason={setReason} onLeave={onLeave} />}
        </>
      }
      extra={
        <>
          <Looked typed={typed} />
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
      canKeep={typed.kind === 'number' && (!standing || because !== '')}
      onText={setText}
      onKeep={() => {
        onEnter(text.trim(), standing && { supersedes: standing.id, reason: because })
        setText('')
        setReason('')
      }}
    />
  )
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

const REASONS = ['misread', 'point in the wrong place', 'digits swapped', 'measured again'] as const

/** Why an earlier value is corrected. It stays in the record, struck through. */
function Why({
  before,
  reason,
  onReason,
  onLeave,
}: {
  before: string
  reason: string
  onReason: (reason: string) => void
  onLeave: () => void
}) {
  return (
    <fieldset className="mt-2">
      <legend className="text-body">
        Instead of <s className="font-mono">{before}</s>, which stays in the record. Why?
      </legend>
      <div className="mt-1 flex flex-wrap gap-1.5">
        {REASONS.map((r) => (
          <button
            key={r}
            type="button"
            aria-pressed={reason === r}
            className="min-h-14 border border-rule bg-sheet px-3 text-body aria-pressed:border-2 aria-pressed:border-teal aria-pressed:bg-teal-wash"
            onClick={() => {
              onReason(r)
            }}
          >
            {r}
          </button>
        ))}
        <input
          aria-label="another reason"
          placeholder="another reason"
          className="field min-h-14 min-w-40 flex-1 text-body"
          maxLength={200}
          value={(REASONS as readonly string[]).includes(reason) ? '' : reason}
          onChange={(event) => {
            onReason(event.target.value)
          }}
        />
        <button
          type="button"
          className="min-h-14 px-2 text-body underline underline-offset-4"
          onClick={onLeave}
        >
          Leave it as it is
        </button>
      </div>
    </fieldset>
  )
}
