import type { BuretteView, ByHand } from '@/api'
import { flaskWords, toneOf } from './indicators'

/** The tip over the flask: what runs, what hangs there, what the flask shows. */
export function Glass({ seen, of, runs }: { seen: BuretteView['seen']; of: ByHand; runs: boolean }) {
  const tone = toneOf(of.indicator, of.begins_acid, seen.turned)
  const struck = toneOf(of.indicator, of.begins_acid, 0.85)
  const words = flaskWords(of.indicator, of.begins_acid, seen.flask)
  return (
    <figure>
      <svg
        viewBox="0 0 170 250"
        role="img"
        aria-label={`the flask is ${words}${seen.flash > 0.2 ? ', with a colour where it falls in' : ''}${seen.air ? '; a bubble hangs in the tip' : ''}`}
        className="block h-[14.5rem] w-auto max-w-full"
      >
        <path d="M74 0V40L82 60V78H88V60L96 40V0" fill="none" className="stroke-pencil" strokeWidth="1.5" />
        <path d="M62 24H108" className="stroke-ink" strokeWidth="6" />
        <path d="M75 30V40L83 60V77H87V60L95 40V30Z" className="fill-teal-wash" />
        {seen.air && <circle cx="85" cy="48" r="5" className="fill-sheet stroke-ink" strokeWidth="1.5" />}
        {runs && <path d="M85 79V196" className="stroke-teal" strokeWidth="2.5" />}
        <path d="M34 196H136L158 240H12Z" style={{ fill: tone }} />
        {seen.flash > 0.02 && (
          <ellipse
            cx="85"
            cy="204"
            rx={10 + 22 * seen.flash}
            ry={5 + 5 * seen.flash}
            style={{ fill: struck, opacity: 0.35 + 0.55 * seen.flash }}
          />
        )}
        <path d="M66 96V122L8 244H162L104 122V96" fill="none" className="stroke-pencil" strokeWidth="1.5" />
        <path d="M60 96H110" className="stroke-pencil" strokeWidth="2" />
        <path d="M34 196Q85 204 136 196" fill="none" className="stroke-teal" strokeWidth="1.5" />
      </svg>
      <figcaption role="status" className="mt-1">
        {words}
        {seen.flash > 0.2 && <span className="block text-note text-slate">not mixed: swirl it</span>}
      </figcaption>
    </figure>
  )
}
