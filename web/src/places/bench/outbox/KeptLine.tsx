import type { ReactNode } from 'react'
import { clockTime, Reading, StateMark, Unit, type StateKind } from '@/ui'
import { HeldNote } from '../step/ObservationField'
import type { Filled } from '../standing'

/** What stands in a place, with what stood there before, struck through. */
export function KeptLine({
  label,
  standing,
  state,
  change,
  closed,
  inWords = false,
  onChange,
  children,
}: {
  label: string
  standing: Filled
  state: StateKind
  change: string
  closed: boolean
  /** A name or a sentence, and no number. */
  inWords?: boolean
  onChange: () => void
  children?: ReactNode
}) {
  return (
    <section aria-label={label} className="border-t border-rule py-1.5">
      <div className="flex flex-wrap items-center justify-between gap-x-4">
        <p className="text-body text-slate">
          {label}
          {!standing.held && ` · arrived ${clockTime(standing.at)}`}
        </p>
        <p className="flex grow flex-wrap items-baseline gap-x-3">
          {standing.struck.map((s, i) => (
            <s key={i} className="font-mono text-slate" title={s.reason ?? 'entered again'}>
              {s.text}
            </s>
          ))}
          {inWords ? (
            <span className="min-w-0 wrap-anywhere">{standing.text}</span>
          ) : (
            <span className="text-title">
              <Reading text={standing.text} />
            </span>
          )}
          <span className="text-slate">
            <Unit of={standing.unit} />
          </span>
          <StateMark
            kind={standing.held ? 'waiting' : state}
            word={standing.held ? 'held on this device' : state}
          />
        </p>
        {!closed && (
          <button
            type="button"
            className="min-h-14 pl-2 text-body underline underline-offset-4"
            aria-label={`${change}: ${label}`}
            onClick={onChange}
          >
            {change}
          </button>
        )}
      </div>
      {standing.held && <HeldNote />}
      {children}
    </section>
  )
}

/** A place where nothing stands yet. */
export function OpenLine({
  label,
  writing,
  closed,
  onChoose,
}: {
  label: string
  writing: boolean
  closed: boolean
  onChoose: () => void
}) {
  return (
    <button
      type="button"
      disabled={closed || writing}
      className="flex min-h-14 items-center justify-between gap-x-4 border-t border-rule text-left text-slate"
      onClick={onChoose}
    >
      <span className={writing ? 'text-ink' : ''}>{label}</span>
      <span className="text-body">{writing ? 'below' : 'not yet'}</span>
    </button>
  )
}
