import { Section } from './Section'
import { useForm } from './formContext'

/** Instruments, vessels, and what groups share. */
export function Room() {
  const { file } = useForm()
  return (
    <>
      <Section
        name="instruments"
        title="instruments"
        items={file.instruments ?? []}
        nameOf={(i) => i.name}
        empty="No instruments yet."
        add="add an instrument"
      >
        {(i) => (
          <p>
            {i.name}
            <span className="font-mono text-note text-slate">
              {' '}
              · step {i.resolution} {i.unit} · ± {i.tolerance} · s {i.repeatability} · up to {i.capacity}
            </span>
          </p>
        )}
      </Section>
      <Section
        name="vessels"
        title="vessels"
        items={file.vessels ?? []}
        nameOf={(v) => v.name}
        empty="No vessels: whether everything fits is not looked at."
        add="add a vessel"
      >
        {(v) => (
          <p>
            {v.name}{' '}
            <span className="text-note text-slate">
              · holds {v.capacity}
              {v.tagged === true && ' · carries a tag'}
            </span>
          </p>
        )}
      </Section>
      <Section
        name="resources"
        title="shared by the class"
        items={file.resources ?? []}
        nameOf={(r) => r.name}
        empty="Nothing is shared."
        add="add something shared"
      >
        {(r) => (
          <p>
            {r.name}{' '}
            <span className="text-note text-slate">
              · {r.count} in the room, {r.groups} {r.groups === 1 ? 'group' : 'groups'} at once
            </span>
          </p>
        )}
      </Section>
    </>
  )
}
