import type { ReactNode } from 'react'

/** Something that went wrong: what happened, what was kept, what to do. */
export function Failure({ error, children }: { error: unknown; children?: ReactNode }) {
  const words = error instanceof Error ? error.message : 'something failed'
  return (
    <div role="alert" className="border-l-3 border-magenta py-1 pl-3">
      <p className="font-semibold text-magenta">{sentence(words)}</p>
      {children}
    </div>
  )
}

function sentence(words: string): string {
  const plain = words === 'Failed to fetch' ? 'the server cannot be reached' : words
  return plain.charAt(0).toUpperCase() + plain.slice(1) + (/[.?!]$/.test(plain) ? '' : '.')
}
