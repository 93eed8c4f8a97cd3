import type { Finding, ReadingSpec } from '@/api'
import { findingWords } from '@/words'
import { KeptLine, OpenLine } from '../outbox/KeptLine'
import type { Filled } from '../standing'

/** One reading as it stands: kept with its digits, what is odd about it, what was struck. */
export function ReadingLine({
  spec,
  standing,
  findings,
  writing,
  closed,
  later,
  onChange,
  onConfirm,
}: {
  spec: ReadingSpec
  standing: Filled | undefined
  findings: readonly Finding[]
  writing: boolean
  closed: boolean
  /** Another one is to be looked at first. */
  later: boolean
  onChange: () => void
  onConfirm: () => void
}) {
  if (!standing) {
    return <OpenLine label={spec.label} writing={writing} closed={closed} onChoose={onChange} />
  }
  const doubtful = findings.length > 0 && !standing.confirmed
  return (
    <KeptLine
      label={`${spec.label} · ${standing.sent ? 'sent by ' : ''}${standing.on ?? spec.instrument}`}
      standing={standing}
      state={doubtful ? 'doubtful' : 'settled'}
      change={spec.axis == null ? 'Correct it' : `Correct ${spec.axis} ${trialOf(spec)}`}
      closed={closed || writing}
      onChange={onChange}
    >
      {standing.borrowed != null && (
        <p className="text-body text-copper-text">
          Borrowed from {standing.borrowed}: go on with it; it is not your own.
        </p>
      )}
      {standing.by_instructor && standing.borrowed == null && (
        <p className="text-body text-copper-text">
          Entered by your instructor
          {standing.struck.at(-1)?.reason != null && `: ${standing.struck.at(-1)?.reason ?? ''}`}.
        </p>
      )}
      {standing.steps.length > 0 && (
        <p className="text-body text-slate">
          on the way: <span className="font-mono">{standing.steps.join(', ')}</span>
        </p>
      )}
      {!standing.held &&
        !later &&
        findings.map((f, i) => (
          <p key={i} className={`text-body ${doubtful ? 'text-amber-text' : 'text-slate'}`}>
            {findingWords(f)}
          </p>
        ))}
      {!standing.held && !later && findings.length > 0 && !closed && (
        <p className="text-body">
          {standing.confirmed ? (
            'Checked: it is right.'
          ) : (
            <button
              type="button"
              className="min-h-14 font-semibold underline underline-offset-4"
              onClick={onConfirm}
            >
              We checked: it is right
            </button>
          )}
        </p>
      )}
    </KeptLine>
  )
}

/** `2` of `V_end[2]`. */
const trialOf = (spec: ReadingSpec) => /\[(\d+)\]$/.exec(spec.symbol)?.[1] ?? ''
