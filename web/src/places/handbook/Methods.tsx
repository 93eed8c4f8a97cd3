import { METHODS, type Method } from './methodTexts'

/** How each figure is found: formula, meaning, source. */
export function Methods() {
  return (
    <section aria-labelledby="methods">
      <h1 id="methods" className="text-title">
        Methods
      </h1>
      <p className="mb-5 max-w-[52rem] text-slate">
        What is calculated, how, and by which authority. Every one of them expands into the same calculation
        sheet that the worked solutions show.
      </p>
      <div className="columns-1 gap-x-12 desk:columns-2">
        {METHODS.map((m) => (
          <One key={m.title} method={m} />
        ))}
      </div>
    </section>
  )
}

function One({ method }: { method: Method }) {
  return (
    <article className="mb-6 break-inside-avoid border-t border-rule pt-2">
      <h2 className="text-body">{method.title}</h2>
      <p className="my-1 font-mono text-body whitespace-pre-wrap text-teal">{method.formula}</p>
      <p className="text-note">{method.meaning}</p>
      <p className="text-note text-slate">{method.source}</p>
    </article>
  )
}
