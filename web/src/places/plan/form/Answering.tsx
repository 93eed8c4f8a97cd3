import { Name } from '@/ui'
import { FieldEditor } from './FieldEditor'
import { Section } from './Section'
import { useForm } from './formContext'

/** How answers are taken and marked: reasons in words, what a group hears, marks at the bench, lines through the class. */
export function Answering() {
  const { file } = useForm()
  return (
    <>
      <Section
        name="reasons"
        title="reasons in words"
        items={file.reasons ?? []}
        nameOf={(r) => r.label}
        empty="Nothing is asked for in words. A step asks for it by its name, like a result."
        add="ask for a reason"
      >
        {(r) => (
          <p>
            {r.label}
            <span className="block text-note text-slate">
              <Name of={r.name} />
              {(r.marks ?? 0) > 0 && ` · marks: ${r.marks}`}
              {(r.model ?? '') !== '' && ` · ${r.model}`}
            </span>
          </p>
        )}
      </Section>
      <Fields of="feedback" title="how answers are taken" value={file.feedback} />
      <Fields of="marking" title="how they are marked" value={file.marking} />
      <Section
        name="pooled"
        title="lines through the class"
        items={file.pooled ?? []}
        nameOf={(p) => p.label}
        empty="No line through the points of all groups."
        add="add a line"
      >
        {(p) => (
          <p>
            {p.label}
            <span className="text-note text-slate">
              {' '}
              · <Name of={p.y} /> against <Name of={p.x} />
            </span>
          </p>
        )}
      </Section>
    </>
  )
}

/** The fields of a table of its own in the file. */
function Fields({ of, title, value }: { of: 'feedback' | 'marking'; title: string; value: unknown }) {
  const { fields, editing } = useForm()
  const held = (value ?? {}) as Record<string, unknown>
  return (
    <section aria-labelledby={`section-${of}`} className="mt-8">
      <h2 id={`section-${of}`} className="mb-2 text-body">
        {title}
      </h2>
      <div className="grid grid-cols-2 gap-x-4 gap-y-2 tablet:grid-cols-3">
        {(fields[of] ?? []).map((f) => (
          <FieldEditor key={f.key} field={f} path={[of, f.key]} value={held[f.key]} editing={editing} />
        ))}
      </div>
    </section>
  )
}
