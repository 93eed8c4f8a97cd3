import type { ReactNode } from 'react'
import { lineName } from '../path'
import { Line } from './Line'
import { useForm, type SectionName } from './formContext'

/** A section of the plan: its heading, its lines, and a way to add one. */
export function Section<T>({
  name,
  title,
  items,
  nameOf,
  empty,
  add,
  head,
  children,
}: {
  name: SectionName
  title: string
  items: readonly T[]
  nameOf: (item: T) => string
  empty: string
  add: string
  head?: ReactNode
  children: (item: T, at: number) => ReactNode
}) {
  const form = useForm()
  return (
    <section aria-labelledby={`section ${name}`} className="mt-8">
      <div id={lineName([name])} className="data-lit:bg-copper-wash">
        <div className="mb-1 flex items-baseline justify-between gap-6">
          <h2 id={`section ${name}`} className="text-body">
            {title}
          </h2>
          {!form.editing.readOnly && (
            <button
              type="button"
              className="min-h-6 text-note text-slate underline decoration-rule underline-offset-4 hover:text-ink hover:decoration-copper print:hidden"
              onClick={() => {
                form.add(name)
              }}
            >
              {add}
            </button>
          )}
        </div>
        {head}
      </div>
      <ol>
        {items.map((item, i) => (
          <Line
            key={`${name} ${i}`}
            path={[name, i]}
            name={nameOf(item)}
            fields={form.fields[name] ?? []}
            value={item}
            editing={form.editing}
            count={items.length}
            onMove={(to) => {
              form.move(name, i, to)
            }}
            onRemove={() => {
              form.remove(name, i, nameOf(item))
            }}
          >
            {children(item, i)}
          </Line>
        ))}
      </ol>
      {items.length === 0 && <p className="border-t border-rule py-2.5 text-note text-slate">{empty}</p>}
    </section>
  )
}
