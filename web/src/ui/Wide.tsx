import type { ReactNode } from 'react'

/** Something wider than a phone, which scrolls by itself: the page does not. */
export function Wide({ label, children }: { label: string; children: ReactNode }) {
  return (
    <div
      role="region"
      aria-label={label}
      tabIndex={0}
      className="overflow-x-auto print:overflow-visible desk:overflow-visible"
    >
      {children}
    </div>
  )
}
