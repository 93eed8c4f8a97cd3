import type { ReactNode } from 'react'

/** A box to tick, with its words. */
export function Tick({
  ticked,
  onTick,
  className = '',
  children,
}: {
  ticked: boolean
  onTick: (ticked: boolean) => void
  className?: string
  children: ReactNode
}) {
  return (
    <label className={`flex min-h-9 items-center gap-2 ${className}`}>
      <input
        type="checkbox"
        className="size-5 accent-copper"
        checked={ticked}
        onChange={(event) => {
          onTick(event.target.checked)
        }}
      />
      {children}
    </label>
  )
}
