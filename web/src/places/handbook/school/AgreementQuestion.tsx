import { useState } from 'react'
import type { TitresAgree } from '@/api'
import { agreementKind, agreementLimit, agreementRules, type AgreementKind } from '@/words'
import { Choices, Question } from './Question'

const ASKS = 'Titres agree'

/** When titres agree; a limit is typed with its unit. */
export function AgreementQuestion({
  value = 'instruments',
  error,
  onChoose,
}: {
  error: Error | null
  value?: TitresAgree | undefined
  onChoose: (agreement: TitresAgree) => void
}) {
  const kind = agreementKind(value)
  const limit = agreementLimit(value)
  const choices = agreementRules.map((r) => ({
    value: r.kind,
    name: r.name,
    looks: r.kind === kind ? limit : r.limit,
  }))
  return (
    <Question asks={ASKS} error={error}>
      <Choices
        label={ASKS}
        value={kind}
        of={choices}
        onChoose={(chosen) => {
          onChoose(ruleOf(chosen, agreementRules.find((r) => r.kind === chosen)?.limit ?? ''))
        }}
      />
      {limit !== null && (
        <Limit
          key={limit}
          kept={limit}
          onKeep={(text) => {
            onChoose(ruleOf(kind, text))
          }}
        />
      )}
      <p className="mt-1.5 text-note text-slate">
        Where neither a titre nor its method says it. Of only three trials an outlier test says little:
        another one is asked for then.
      </p>
    </Question>
  )
}

function ruleOf(kind: AgreementKind, limit: string): TitresAgree {
  switch (kind) {
    case 'within':
      return { within: limit }
    case 'rsd':
      return { rsd: limit }
    case 'instruments':
    case 'outlier-test':
      return kind
  }
}

function Limit({ kept, onKeep }: { kept: string; onKeep: (text: string) => void }) {
  const [text, setText] = useState(kept)
  return (
    <form
      className="mt-2 flex items-end gap-3"
      onSubmit={(event) => {
        event.preventDefault()
        if (text.trim() !== kept) onKeep(text.trim())
      }}
    >
      <label className="text-note text-slate">
        the limit
        <input
          className="field block w-32 font-mono"
          maxLength={20}
          value={text}
          onChange={(e) => {
            setText(e.target.value)
          }}
        />
      </label>
      <button type="submit" className="action" disabled={text.trim() === '' || text.trim() === kept}>
        keep this limit
      </button>
    </form>
  )
}
