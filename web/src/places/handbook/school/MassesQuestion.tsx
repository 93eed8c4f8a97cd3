import { useState } from 'react'
import type { MassTable } from '@/api'
import { numberOf } from '@/ui'
import { Choices, Question } from './Question'

const ASKS = 'Relative atomic masses'

const TABLES = [
  { value: 'abridged', name: 'the standard values', looks: 'Cu 63.546' },
  { value: 'school', name: 'to one decimal', looks: 'Cu 63.5' },
  { value: 'own', name: 'our own table', looks: 'Cu 64' },
] as const

/** Which table molar masses come from; one's own is typed, an element a line. */
export function MassesQuestion({
  value = 'abridged',
  error,
  onChoose,
}: {
  error: Error | null
  value?: MassTable | undefined
  onChoose: (masses: MassTable) => void
}) {
  const own = typeof value === 'string' ? null : value.own
  const [writing, setWriting] = useState(false)
  return (
    <Question asks={ASKS} error={error}>
      <Choices
        label={ASKS}
        value={own !== null || writing ? 'own' : value === 'school' ? 'school' : 'abridged'}
        of={TABLES}
        onChoose={(chosen) => {
          setWriting(chosen === 'own')
          if (chosen !== 'own') onChoose(chosen)
        }}
      />
      {(own !== null || writing) && (
        <OwnTable
          kept={own ?? {}}
          onKeep={(table) => {
            onChoose({ own: table })
            setWriting(false)
          }}
        />
      )}
    </Question>
  )
}

function OwnTable({
  kept,
  onKeep,
}: {
  kept: Readonly<Record<string, number>>
  onKeep: (table: Record<string, number>) => void
}) {
  const [text, setText] = useState(
    Object.entries(kept)
      .map(([symbol, mass]) => `${symbol} ${mass}`)
      .join('\n'),
  )
  const lines = text.split('\n').filter((l) => l.trim() !== '')
  const read = lines.map((l) => {
    const [symbol = '', mass = '', ...more] = l.trim().split(/\s+/)
    const number = numberOf(mass)
    return number === undefined || more.length > 0 ? l : ([symbol, number] as const)
  })
  const wrong = read.find((r) => typeof r === 'string')
  const table: Record<string, number> = Object.fromEntries(
    read.flatMap((r) => (typeof r === 'string' ? [] : [[r[0], r[1]]])),
  )
  return (
    <form
      className="mt-2"
      onSubmit={(event) => {
        event.preventDefault()
        onKeep(table)
      }}
    >
      <label className="text-note text-slate">
        one element per line; an element that is not listed has no mass here
        <textarea
          className="field block h-32 w-48 font-mono"
          maxLength={4000}
          placeholder={'Cu 64\nO 16'}
          value={text}
          onChange={(e) => {
            setText(e.target.value)
          }}
        />
      </label>
      {wrong !== undefined && (
        <p className="border-l-3 border-magenta pl-2 text-note text-magenta">
          “{wrong}” is no element with its mass
        </p>
      )}
      <button type="submit" className="action mt-2" disabled={lines.length === 0 || wrong !== undefined}>
        keep this table
      </button>
    </form>
  )
}
