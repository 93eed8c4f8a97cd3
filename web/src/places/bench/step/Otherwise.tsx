import { useEffect, useRef, useState } from 'react'
import { v7 as uuidv7 } from 'uuid'
import type { BenchView, Departure, EntryBody } from '@/api'
import { deviationWords } from '@/words'
import type { BenchNow } from '../standing'
import { numberOf } from '@/ui'

type Kind = Departure['kind']

const HAPPENED: readonly { kind: Exclude<Kind, 'weighed-once'>; label: string }[] = [
  { kind: 'lost', label: 'spilled or lost' },
  { kind: 'added', label: 'more went in' },
  { kind: 'sampled', label: 'took a sample' },
  { kind: 'seeded', label: 'put in a seed' },
  { kind: 'otherwise', label: 'done another way' },
]

/** Something went otherwise than planned: what, how much of which material, in the group's words. It is kept, not judged. */
export function Otherwise({
  view,
  now,
  step,
  onEnter,
}: {
  view: BenchView
  now: BenchNow
  step: number
  onEnter: (entry: EntryBody) => void
}) {
  const form = useRef<HTMLFormElement>(null)
  useEffect(() => {
    form.current?.scrollIntoView({ block: 'nearest' })
  }, [])
  const [kind, setKind] = useState<Kind>('lost')
  const [material, setMaterial] = useState<string | null>(null)
  const [amount, setAmount] = useState('')
  const [note, setNote] = useState('')
  const ofProduct = kind === 'sampled' || kind === 'seeded'
  const materials = view.materials.filter((m) => (ofProduct ? m.product : true))
  const chosen = materials.find((m) => m.symbol === material)
  const number = numberOf(amount)
  const measured = kind !== 'otherwise' && kind !== 'weighed-once'
  const asked = view.steps[step]
  const weighed = asked?.weighed_until_constant
  const complete = measured ? chosen !== undefined && number !== undefined && number > 0 : note.trim() !== ''
  const told = (): Departure => {
    if (kind === 'weighed-once' && weighed != null) return { kind, reading: weighed }
    if (!measured || !chosen) return { kind: 'otherwise' }
    return { kind, material: chosen.symbol, amount: `${amount.trim().replace(',', '.')} ${chosen.unit}` }
  }
  return (
    <form
      ref={form}
      aria-label="something went wrong"
      className="mb-5 border-l-4 border-copper pl-3"
      onSubmit={(event) => {
        event.preventDefault()
        if (!complete) return
        onEnter({ kind: 'deviation', nr: uuidv7(), step, what: told(), note: note.trim() })
        setAmount('')
        setNote('')
        setMaterial(null)
      }}
    >
      <fieldset>
        <legend className="mb-1.5 font-semibold">What happened?</legend>
        <div className="flex flex-wrap gap-1.5">
          {HAPPENED.map((h) => (
            <Pick
              key={h.kind}
              on={kind === h.kind}
              label={h.label}
              onPick={() => {
                setKind(h.kind)
                setMaterial(null)
              }}
            />
          ))}
          {weighed != null && (
            <Pick
              on={kind === 'weighed-once'}
              label="weighed only once"
              onPick={() => {
                setKind('weighed-once')
              }}
            />
          )}
        </div>
      </fieldset>
      {measured && (
        <>
          <fieldset className="mt-3">
            <legend className="mb-1.5">Of what?</legend>
            <div className="flex flex-wrap gap-1.5">
              {materials.map((m) => (
                <Pick
                  key={m.symbol}
                  on={material === m.symbol}
                  label={m.name}
                  onPick={() => {
                    setMaterial(m.symbol)
                  }}
                />
              ))}
            </div>
          </fieldset>
          <label className="mt-3 flex items-center gap-2">
            <span>About</span>
            <input
              className="field min-h-14 w-28 font-mono"
              inputMode="decimal"
              autoComplete="off"
              aria-label="about how much"
              value={amount}
              maxLength={12}
              onChange={(event) => {
                setAmount(event.target.value)
              }}
            />
            <span>{chosen?.unit ?? ''}</span>
          </label>
        </>
      )}
      <label className="mt-3 block">
        <span className="mb-1 block">
          {measured
            ? 'Anything else? (optional)'
            : kind === 'weighed-once'
              ? 'Why not again?'
              : 'What was done instead, and why?'}
        </span>
        <textarea
          rows={2}
          maxLength={500}
          className="field min-h-14 w-full"
          value={note}
          onChange={(event) => {
            setNote(event.target.value)
          }}
        />
      </label>
      <button type="submit" className="action mt-2 min-h-14" disabled={!complete || view.closed}>
        Keep it
      </button>
      <ul className="mt-3">
        {now.deviations.map((d) => (
          <li
            key={d.nr}
            className="flex flex-wrap items-baseline justify-between gap-x-3 border-t border-rule py-1.5"
          >
            <span>
              step {d.step + 1}: {deviationWords(d, view.materials)}
            </span>
            {!view.closed && (
              <button
                type="button"
                className="min-h-11 text-body underline underline-offset-4"
                onClick={() => {
                  onEnter({ kind: 'deviation', ...d, withdrawn: true })
                }}
              >
                delete
              </button>
            )}
          </li>
        ))}
      </ul>
    </form>
  )
}

function Pick({ on, label, onPick }: { on: boolean; label: string; onPick: () => void }) {
  return (
    <button
      type="button"
      aria-pressed={on}
      className="min-h-12 border border-rule bg-sheet px-3 text-body aria-pressed:border-2 aria-pressed:border-copper aria-pressed:bg-copper-wash aria-pressed:font-semibold"
      onClick={onPick}
    >
      {label}
    </button>
  )
}
