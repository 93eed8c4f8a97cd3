import type { BalanceShows, Pan } from '@/api'
import { setNumber } from '@/ui'
import { THINGS } from './things'

/** The balance: what lies on the pan, its doors, and the display. */
export function Display({ shown, on, open }: { shown: BalanceShows; on: Pan | null; open: boolean }) {
  return (
    <figure>
      <svg
        viewBox="0 0 360 190"
        role="img"
        aria-label={`on the pan: ${on === null ? 'nothing' : THINGS[on]}; doors ${open ? 'open' : 'closed'}${shown.spill ? '; something was spilled on the pan' : ''}`}
        className="block w-full max-w-md"
      >
        <path d="M20 184H340V120H20Z" className="fill-sheet stroke-pencil" strokeWidth="1.5" />
        <path
          d={open ? 'M60 120V14M300 120V14M60 14H300' : 'M60 120V14H300V120'}
          fill="none"
          className="stroke-pencil"
          strokeWidth="1.5"
          strokeDasharray={open ? '5 6' : undefined}
        />
        <path d="M110 104H250M180 104V120" className="stroke-ink" strokeWidth="3" />
        {shown.spill && <path d="M226 101l5 -4l6 3l5 -3l4 4Z" className="fill-copper" />}
        {(on === 'full-boat' || on === 'empty-boat') && (
          <path d="M140 84H216L204 102H152Z" className="fill-paper stroke-ink" strokeWidth="1.5" />
        )}
        {on === 'full-boat' && <path d="M152 84Q178 66 204 84Z" className="fill-pencil" />}
        {on === 'hot-crucible' && (
          <>
            <path d="M152 62H208L200 102H160Z" className="fill-paper stroke-ink" strokeWidth="1.5" />
            <path d="M148 58H212" className="stroke-ink" strokeWidth="4" />
          </>
        )}
        <rect x="92" y="132" width="176" height="40" className="fill-paper stroke-rule" />
        <text x="256" y="162" textAnchor="end" className="fill-ink font-mono text-[28px]">
          {setNumber(shown.text)} g
        </text>
        <text x="104" y="160" className="fill-teal text-[22px]">
          {shown.stable ? '•' : ''}
        </text>
      </svg>
      <figcaption role="status" className="mt-1 text-slate">
        {shown.stable ? 'stable' : 'still settling'}
        {shown.spill && ' · there is something on the pan'}
      </figcaption>
    </figure>
  )
}
