import { numberOf, StateMark } from '@/ui'
import { findingWords } from '@/words'
import type { Typed } from './typed'

/** A value that need not be read, taken over by one tap. */
export function Known({
  words,
  known,
  unit,
  typed,
  onTake,
}: {
  words: string
  known: string | null | undefined
  unit: string
  typed: string
  onTake: (text: string) => void
}) {
  if (known == null || known === typed) return null
  return (
    <button
      type="button"
      className="action min-h-14"
      onClick={() => {
        onTake(known)
      }}
    >
      {words} {known} {unit}
    </button>
  )
}

/** A comma that may part thousands or decimals: asked back, with what was typed kept. */
export function CommaAsked({ of }: { of: { thousands: string; decimal: string } }) {
  return (
    <p className="text-magenta">
      Is this {of.thousands}, or {of.decimal}? Leave the comma out, or type a point.
    </p>
  )
}

/** Drops are counted while they fall, by a hand that holds a pipette. */
export function OneDrop({ text, onText }: { text: string; onText: (text: string) => void }) {
  return (
    <button
      type="button"
      className="action mt-2 min-h-20 w-full text-title"
      onClick={() => {
        onText(String((numberOf(text) ?? 0) + 1))
      }}
    >
      one drop
    </button>
  )
}

/** What the display showed before it was enough. */
export function SoFar({ steps }: { steps: readonly string[] }) {
  if (steps.length === 0) return null
  return (
    <p className="text-slate">
      so far <span className="font-mono text-ink">{steps.join(', ')}</span>
    </p>
  )
}

/** Weighing in portions: what the display shows is noted, and more is added. */
export function NotEnough({ can, onMore }: { can: boolean; onMore: () => void }) {
  if (!can) return null
  return (
    <button type="button" className="min-h-12 underline underline-offset-4" onClick={onMore}>
      Add another portion
    </button>
  )
}

/** What the device itself can say of the digits; marked, never blocked. */
export function Looked({ typed }: { typed: Typed }) {
  switch (typed.kind) {
    case 'empty':
      return null
    case 'no-number':
      return (
        <p className="text-magenta">
          <StateMark kind="wrong" word="no number" /> This is no number yet: digits, one point or comma.
        </p>
      )
    case 'asked':
      return <CommaAsked of={typed} />
    case 'number':
      return typed.findings.map((f) => (
        <p key={f.kind} className="text-amber-text">
          <StateMark kind="doubtful" /> {findingWords(f)}
        </p>
      ))
  }
}
