import { useState } from 'react'
import type { InputProps } from './FieldEditor'
import type { Takes } from './fieldKinds'
import { read, shown } from './values'

/** A text field that is kept when it is left, or with Enter; Escape takes back what was typed. */
export function Typed({ id, field, path, value, editing, wrong, takes }: InputProps & { takes: Takes }) {
  const kept = shown(value, takes.kind)
  const [text, setText] = useState(kept)
  const result = read(text, takes.kind)
  const error = 'error' in result ? result.error : null
  const keep = () => {
    if (text !== kept && 'value' in result) editing.set(path, result.value, field.label)
  }
  const common = {
    id,
    value: text,
    readOnly: editing.readOnly,
    placeholder: field.hint,
    'aria-invalid': wrong || error !== null,
    onBlur: keep,
    onChange: (event: { target: { value: string } }) => {
      setText(event.target.value)
    },
    onKeyDown: (event: React.KeyboardEvent) => {
      if (event.key === 'Escape') setText(kept)
      if (
        event.key === 'Enter' &&
        (takes.kind === 'text' || takes.kind === 'number' || takes.kind === 'pair')
      )
        keep()
      if (event.key === 'Enter' && (event.ctrlKey || event.metaKey)) keep()
    },
  }
  const many = takes.kind === 'long' || takes.kind === 'lines' || takes.kind === 'map'
  return (
    <>
      {many ? (
        <textarea
          {...common}
          rows={Math.min(8, Math.max(2, text.split('\n').length + (takes.kind === 'long' ? 1 : 0)))}
          className="field w-full"
        />
      ) : (
        <input {...common} className={`field w-full ${takes.kind === 'number' ? 'font-mono' : ''}`} />
      )}
      {error !== null && (
        <p className="mt-1 border-l-3 border-magenta pl-2 text-note text-magenta">{error}: not kept yet</p>
      )}
    </>
  )
}

export function Names({
  value,
  editing,
  takes,
  onChoose,
}: InputProps & { takes: Extract<Takes, { kind: 'names' }>; onChoose: (next: unknown) => void }) {
  const chosen = Array.isArray(value) ? value.map(String) : []
  const all = [...takes.of, ...chosen.filter((c) => !takes.of.includes(c))]
  if (all.length === 0) return <p className="text-note text-pencil">there are none yet</p>
  return (
    <div className="flex flex-wrap gap-x-5">
      {all.map((name) => (
        <label key={name} className="flex min-h-9 items-center gap-2">
          <input
            type="checkbox"
            className="size-5 accent-copper"
            checked={chosen.includes(name)}
            disabled={editing.readOnly}
            onChange={(event) => {
              const next = event.target.checked ? [...chosen, name] : chosen.filter((c) => c !== name)
              onChoose(next.length === 0 ? null : next)
            }}
          />
          <span className="font-mono text-note">{name}</span>
          {!takes.of.includes(name) && <span className="text-note text-magenta">not there</span>}
        </label>
      ))}
    </div>
  )
}
