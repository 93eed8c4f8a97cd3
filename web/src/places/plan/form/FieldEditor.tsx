import { useId, useState } from 'react'
import type { Told } from '@/api'
import { isIn, type Path } from '../path'
import { begin } from './begin'
import type { Field, Takes } from './fieldKinds'
import { Names, Typed } from './Plain'
import { shown } from './values'

export interface Editing {
  /** Puts a value in its place; `null` takes it away. */
  set: (path: Path, value: unknown, what: string) => void
  problems: readonly Told[]
  readOnly: boolean
}

/** One field with its label and what is wrong with it; while it is empty, an example. */
export function FieldEditor({
  field,
  path,
  value,
  editing,
}: {
  field: Field
  path: Path
  value: unknown
  editing: Editing
}) {
  const id = useId()
  const told = editing.problems.filter((p) => p.place.path.length > 0 && isIn(p.place.path, path))
  const nested = ['union', 'group', 'rows', 'names'].includes(field.takes.kind)
  const body = (
    <Input id={id} field={field} path={path} value={value} editing={editing} wrong={told.length > 0} />
  )
  return (
    <div className={wide(field.takes) ? 'col-span-full' : ''}>
      {nested ? (
        <fieldset>
          <legend className="mb-0.5 text-note text-slate">{field.label}</legend>
          {body}
        </fieldset>
      ) : (
        <>
          {field.takes.kind !== 'flag' && (
            <label htmlFor={id} className="mb-0.5 block text-note text-slate">
              {field.label}
            </label>
          )}
          {body}
        </>
      )}
      {told.map((p) => (
        <p key={p.reason} className="mt-1 border-l-3 border-magenta pl-2 text-note text-magenta">
          {p.reason}
          {p.hint != null && ` – ${p.hint}`}
        </p>
      ))}
    </div>
  )
}

/** What was chosen, from the moment it is chosen; what the file holds, as soon as that changes. */
function useEcho(value: unknown): [unknown, (next: unknown) => void] {
  const held = JSON.stringify(value)
  const [echo, setEcho] = useState({ held, now: value })
  if (echo.held !== held) setEcho({ held, now: value })
  return [
    echo.held === held ? echo.now : value,
    (now) => {
      setEcho({ held, now })
    },
  ]
}

const wide = (takes: Takes) =>
  ['long', 'lines', 'names', 'rows', 'union', 'group', 'map'].includes(takes.kind)

/** What every input of a field is given. */
export interface InputProps {
  id: string
  field: Field
  path: Path
  value: unknown
  editing: Editing
  wrong: boolean
}

function Input(props: InputProps) {
  const { field, path, editing, id } = props
  const { takes, label } = field
  const [value, echo] = useEcho(props.value)
  const set = (next: unknown) => {
    echo(next)
    editing.set(path, next, label)
  }
  switch (takes.kind) {
    case 'flag':
      return (
        <label className="flex min-h-11 items-center gap-2">
          <input
            type="checkbox"
            className="size-5 accent-copper"
            checked={value === true}
            disabled={editing.readOnly}
            onChange={(event) => {
              set(event.target.checked ? true : null)
            }}
          />
          {label}
        </label>
      )
    case 'choice':
      return (
        <select
          id={id}
          className="field w-full"
          value={shown(value, 'text')}
          disabled={editing.readOnly}
          aria-invalid={props.wrong}
          onChange={(event) => {
            set(event.target.value === '' ? null : event.target.value)
          }}
        >
          {(takes.empty === true || !takes.of.includes(shown(value, 'text'))) && (
            <option value={takes.of.includes(shown(value, 'text')) ? '' : shown(value, 'text')}>
              {takes.of.includes(shown(value, 'text')) || value == null
                ? 'none'
                : `${shown(value, 'text')} (not there)`}
            </option>
          )}
          {takes.empty === true && value != null && !takes.of.includes(shown(value, 'text')) && (
            <option value="">none</option>
          )}
          {takes.of.map((name) => (
            <option key={name} value={name}>
              {name.replaceAll('-', ' ')}
            </option>
          ))}
        </select>
      )
    case 'names':
      return <Names {...props} value={value} onChoose={set} takes={takes} />
    case 'union':
      return <Union {...props} takes={takes} />
    case 'group':
      return <Group {...props} takes={takes} />
    case 'rows':
      return <Rows {...props} takes={takes} />
    case 'text':
    case 'long':
    case 'number':
    case 'pair':
    case 'lines':
    case 'numbers':
    case 'map':
      return <Typed key={shown(value, takes.kind)} {...props} takes={takes} />
  }
}

/** A value of several kinds: first which, then what that kind holds. With an empty key it is the item itself. */
function Union({
  id,
  field,
  path,
  value,
  editing,
  takes,
}: InputProps & { takes: Extract<Takes, { kind: 'union' }> }) {
  const own = (value ?? {}) as Record<string, unknown>
  const tag = typeof own[takes.tag] === 'string' ? (own[takes.tag] as string) : ''
  const fields = takes.of[tag] ?? []
  const inside = field.key === '' ? path.slice(0, -1) : path
  const choose = (next: string) => {
    if (next === '') {
      editing.set(inside, null, field.label)
      return
    }
    // What both kinds hold stays, and what the new one must have begins empty.
    const kept = Object.entries(own).filter(
      ([k]) => takes.of[next]?.some((f) => f.key === k) || ['name', 'label'].includes(k),
    )
    const begun = (takes.of[next] ?? []).map((f) => [f.key, begin(f)] as const)
    const fresh = Object.fromEntries([...begun, ...kept, [takes.tag, next] as const])
    editing.set(inside, fresh, field.label)
  }
  return (
    <div className="grid grid-cols-2 items-end gap-x-4 gap-y-2 tablet:grid-cols-3">
      <div>
        <label htmlFor={id} className="sr-only">
          {field.label}
        </label>
        <select
          id={id}
          className="field w-full"
          value={tag}
          disabled={editing.readOnly}
          onChange={(event) => {
            choose(event.target.value)
          }}
        >
          {(takes.empty === true || tag === '') && <option value="">not said</option>}
          {Object.keys(takes.of).map((name) => (
            <option key={name} value={name}>
              {name.replaceAll('-', ' ')}
            </option>
          ))}
        </select>
      </div>
      {fields.map((f) => (
        <FieldEditor key={f.key} field={f} path={[...inside, f.key]} value={own[f.key]} editing={editing} />
      ))}
    </div>
  )
}

function Group({
  field,
  path,
  value,
  editing,
  takes,
}: InputProps & { takes: Extract<Takes, { kind: 'group' }> }) {
  const own = (value ?? null) as Record<string, unknown> | null
  if (own === null) {
    return (
      <button
        type="button"
        className="action text-note"
        disabled={editing.readOnly}
        onClick={() => {
          const fresh = Object.fromEntries(takes.of.map((f) => [f.key, f.key === 'most' ? 4 : begin(f)]))
          editing.set(path, fresh, field.label)
        }}
      >
        set
      </button>
    )
  }
  return (
    <div className="grid grid-cols-2 gap-x-4 gap-y-2 tablet:grid-cols-4">
      {takes.of.map((f) => (
        <FieldEditor key={f.key} field={f} path={[...path, f.key]} value={own[f.key]} editing={editing} />
      ))}
      {takes.empty === true && (
        <button
          type="button"
          className="self-end py-2 text-left text-note underline decoration-rule underline-offset-4 hover:text-ink"
          disabled={editing.readOnly}
          onClick={() => {
            editing.set(path, null, field.label)
          }}
        >
          clear
        </button>
      )}
    </div>
  )
}

/** A short list of things of one kind. */
function Rows({
  field,
  path,
  value,
  editing,
  takes,
}: InputProps & { takes: Extract<Takes, { kind: 'rows' }> }) {
  const rows = Array.isArray(value) ? (value as unknown[]) : []
  // Pairs of numbers stand in the file as [a, b]; everything else under its name.
  const numbered = takes.of.every((f) => /^\d$/.test(f.key))
  const keyOf = (f: Field) => (numbered ? Number(f.key) : f.key)
  const of = (row: unknown, f: Field) => (row as Record<string | number, unknown>)[keyOf(f)]
  return (
    <div className="flex flex-col gap-2">
      {rows.map((row, i) => (
        <div key={i} className="flex items-end gap-3">
          {takes.of.map((f) => (
            <div key={f.key} className="min-w-0 flex-1">
              <FieldEditor field={f} path={[...path, i, keyOf(f)]} value={of(row, f)} editing={editing} />
            </div>
          ))}
          <button
            type="button"
            className="min-h-11 text-note underline decoration-rule underline-offset-4"
            aria-label={`${field.label}: take row ${i + 1} out`}
            disabled={editing.readOnly}
            onClick={() => {
              const rest = rows.filter((_, j) => j !== i)
              editing.set(path, rest.length === 0 ? null : rest, field.label)
            }}
          >
            out
          </button>
        </div>
      ))}
      <button
        type="button"
        className="action self-start text-note"
        disabled={editing.readOnly}
        onClick={() => {
          const fresh = numbered
            ? takes.of.map(() => 0)
            : Object.fromEntries(takes.of.map((f) => [f.key, begin(f)]))
          editing.set(path, [...rows, fresh], field.label)
        }}
      >
        add a row
      </button>
    </div>
  )
}
