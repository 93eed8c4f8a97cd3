import { useState, type ReactNode } from 'react'
import { NumberPad } from '@/places/bench'
import { numberOf } from '@/ui'

/** A reading typed on the keys of the bench. */
export function ReadPad({
  label,
  unit,
  above,
  keep,
  onRead,
}: {
  label: string
  unit: string
  above?: ReactNode
  keep: string
  /** With a point, as the server reads it. */
  onRead: (text: string) => void
}) {
  const [text, setText] = useState('')
  const isNumber = numberOf(text) !== undefined
  return (
    <NumberPad
      label={label}
      unit={unit}
      text={text}
      above={above}
      extra={
        text !== '' && !isNumber ? (
          <p className="text-magenta">This is no number yet: digits, one point or comma.</p>
        ) : null
      }
      keep={keep}
      canKeep={isNumber}
      onText={setText}
      onKeep={() => {
        onRead(text.trim().replace(',', '.'))
      }}
    />
  )
}
