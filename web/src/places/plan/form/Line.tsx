import { useState, type ReactNode } from 'react'
import { StateMark } from '@/ui'
import { isIn, lineName, type Path } from '../path'
import { FieldEditor, type Editing } from './FieldEditor'
import type { Field } from './fieldKinds'

export interface LineProps {
  /** Of the item: a section and a number. */
  path: Path
  /** In words, for the button that opens it. */
  name: string
  fields: readonly Field[]
  value: unknown
  editing: Editing
  /** How many there are in the list, for moving; none where it is no list. */
  count?: number
  onMove?: (to: number) => void
  onRemove?: () => void
  children: ReactNode
}

/**
 * A line of the plan. Pressed, it opens in its place: its usual fields, the others behind "everything about it". What is
 * wrong with it stands beneath it, open or not.
 */
export function Line({ path, name, fields, value, editing, count, onMove, onRemove, children }: LineProps) {
  const [open, setOpen] = useState(false)
  const [all, setAll] = useState(false)
  const told = editing.problems.filter((p) => isIn(p.place.path, path))
  const at = Number(path[1] ?? 0)
  const of = (key: string) => (key === '' ? value : (value as Record<string, unknown> | null)?.[key])
  const visible = fields.filter(
    (f) => f.always === true || all || told.some((p) => p.place.path.includes(f.key)),
  )
  return (
    <li id={lineName(path)} className="group border-t border-rule data-lit:bg-copper-wash">
      <div className="flex items-start gap-3 py-2.5">
        <div className="min-w-0 flex-1">{children}</div>
        <button
          type="button"
          aria-expanded={open}
          aria-label={`${open ? 'close' : 'change'} ${name}`}
          className="min-h-6 w-12 shrink-0 text-right text-note text-slate underline decoration-rule underline-offset-4 hover:text-ink hover:decoration-copper print:hidden"
          onClick={() => {
            setOpen(!open)
          }}
        >
          {open ? 'close' : 'change'}
        </button>
      </div>
      {told.length > 0 && !open && (
        <ul className="pb-2">
          {told.map((p) => (
            <li key={p.reason} className="flex gap-2 text-note text-magenta">
              <StateMark kind="wrong" /> {p.reason}
              {p.hint != null && ` – ${p.hint}`}
            </li>
          ))}
        </ul>
      )}
      {open && (
        <div
          className="mb-3 border-l-3 border-copper bg-sheet px-4 py-3"
          onKeyDown={(event) => {
            if (event.key === 'Escape' && !(event.target instanceof HTMLInputElement)) setOpen(false)
          }}
        >
          <div className="grid grid-cols-2 gap-x-4 gap-y-3 tablet:grid-cols-3">
            {visible.map((f) => (
              <FieldEditor
                key={f.key + f.label}
                field={f}
                path={[...path, f.key]}
                value={of(f.key)}
                editing={editing}
              />
            ))}
          </div>
          <p className="mt-3 flex flex-wrap gap-x-6 text-note">
            {fields.some((f) => f.always !== true) && (
              <button
                type="button"
                aria-expanded={all}
                className="min-h-9 underline decoration-rule underline-offset-4"
                onClick={() => {
                  setAll(!all)
                }}
              >
                {all ? 'usual fields only' : 'all fields'}
              </button>
            )}
            {onMove && at > 0 && (
              <LineButton
                words="move up"
                onPress={() => {
                  onMove(at - 1)
                }}
              />
            )}
            {onMove && count !== undefined && at < count - 1 && (
              <LineButton
                words="move down"
                onPress={() => {
                  onMove(at + 1)
                }}
              />
            )}
            {onRemove && <LineButton words="take it out" onPress={onRemove} />}
          </p>
        </div>
      )}
    </li>
  )
}

function LineButton({ words, onPress }: { words: string; onPress: () => void }) {
  return (
    <button type="button" className="min-h-9 underline decoration-rule underline-offset-4" onClick={onPress}>
      {words}
    </button>
  )
}
