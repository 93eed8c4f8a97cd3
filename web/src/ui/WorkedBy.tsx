/** By whose choices something was worked, behind a line that opens. */
export function WorkedBy({ words }: { words: readonly string[] }) {
  return (
    <details className="mt-3 text-note text-slate">
      <summary className="cursor-pointer">worked by our school’s rules</summary>
      <ul className="mt-1">
        {words.map((w) => (
          <li key={w} className="border-t border-rule py-0.5">
            {w}
          </li>
        ))}
      </ul>
    </details>
  )
}
