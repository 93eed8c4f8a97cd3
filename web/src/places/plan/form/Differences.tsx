import { Formula } from '@/ui'
import { consequenceWords } from '@/words'
import { FieldEditor } from './FieldEditor'
import { Section } from './Section'
import { useForm } from './formContext'

/** How groups differ: recipes, unknowns, and how a class usually comes out. */
export function Differences() {
  const { file, plan, fields, editing } = useForm()
  return (
    <>
      <Section
        name="assignments"
        title="what differs between groups"
        items={file.assignments ?? []}
        nameOf={(a) => a.name}
        empty="All groups work by the same recipe."
        add="add a recipe"
      >
        {(a) => {
          const recipe = plan?.recipes.find((r) => r.name === a.name)
          const theory = recipe?.materials.find((m) => m.role === 'product' && m.planned)
          return (
            <>
              <p className="font-semibold">{a.name}</p>
              <p className="text-note text-slate">
                {Object.entries(a.planned ?? {})
                  .map(([symbol, amount]) => `${symbol} ${amount}`)
                  .join(' · ')}
                {a.limiting != null && ` · ${a.limiting} limits`}
                {a.unknown != null && ` · unknown ${a.unknown}`}
              </p>
              {theory?.planned && (
                <p className="text-note">
                  theory <span className="font-mono">{theory.planned.value}</span>
                  {'\u2009' + theory.planned.unit} of <Formula runs={theory.formula} />
                </p>
              )}
              {recipe?.notes.map((n, i) => {
                const { head, body } = consequenceWords(n.what)
                return (
                  <p key={i} className={`text-note ${n.warns ? 'text-amber-text' : 'text-slate'}`}>
                    <b className="font-semibold">{head}</b> {body}
                  </p>
                )
              })}
            </>
          )
        }}
      </Section>
      <Section
        name="unknowns"
        title="unknowns"
        items={file.unknowns ?? []}
        nameOf={(u) => u.code}
        empty="No coded samples."
        add="add an unknown"
      >
        {(u) => (
          <p>
            <span className="font-mono">{u.code}</span>
            <span className="text-note text-slate"> · {u.is} · the key stays with the instructor</span>
          </p>
        )}
      </Section>
      <Section
        name="class"
        title="how a class comes out"
        items={file.class ?? []}
        nameOf={(c) => c.result}
        empty="Not known yet."
        add="add a class result"
      >
        {(c) => (
          <p>
            {file.results?.find((r) => r.name === c.result)?.label ?? c.result}:{' '}
            <span className="font-mono">{c.mean}</span>, s <span className="font-mono">{c.sd}</span>
            {c.when !== undefined && c.when !== '' && <span className="text-slate">, {c.when}</span>}
          </p>
        )}
      </Section>
      <section aria-labelledby="section-trial" className="mt-8">
        <h2 id="section-trial" className="mb-2 text-body">
          before the class
        </h2>
        {(fields['trial_run'] ?? []).map((f) => (
          <FieldEditor key={f.key} field={f} path={[f.key]} value={file.trial_run} editing={editing} />
        ))}
      </section>
      <section aria-labelledby="section-told" className="mt-8">
        <h2 id="section-told" className="mb-2 text-body">
          what may be told at the bench, and when
        </h2>
        <div className="grid grid-cols-2 gap-x-4 gap-y-2 tablet:grid-cols-3">
          {(fields['disclosure'] ?? []).map((f) => (
            <FieldEditor
              key={f.key}
              field={f}
              path={['disclosure', f.key]}
              value={(file.disclosure as Record<string, unknown> | undefined)?.[f.key]}
              editing={editing}
            />
          ))}
        </div>
      </section>
      <section aria-labelledby="section-school" className="mt-8">
        <h2 id="section-school" className="mb-2 text-body">
          where this practical departs from our school’s rules
        </h2>
        <div className="grid grid-cols-2 gap-x-4 gap-y-2 tablet:grid-cols-3">
          {(fields['school'] ?? []).map((f) => (
            <FieldEditor
              key={f.key}
              field={f}
              path={['school', f.key]}
              value={(file.school as Record<string, unknown> | undefined)?.[f.key]}
              editing={editing}
            />
          ))}
        </div>
      </section>
    </>
  )
}
