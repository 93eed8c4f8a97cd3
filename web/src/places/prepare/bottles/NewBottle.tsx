import { useState } from 'react'
import type { Bottle, SolutionQuestion, StockUnit } from '@/api'
import { Failure } from '@/ui'
import { amount } from '../amount'
import { inWords, plain, type RecipeForm } from '../recipe'
import { usePreparing } from '../usePreparation'
import { useStock } from '../useStock'

/** Puts what was made into the room: groups take from it, and their sums use its strength. */
export function NewBottle({
  run,
  symbol,
  holds,
  bottles,
  form,
  taken,
  recipe,
}: {
  run: number
  symbol: string
  /** What is in it, as the shelf names it too. */
  holds: string
  bottles: readonly Bottle[]
  form: RecipeForm
  taken: string
  recipe: SolutionQuestion
}) {
  const { bottle, tick } = usePreparing(run)
  const [name, setName] = useState('')
  const [until, setUntil] = useState('')
  return (
    <form
      className="mt-6 flex flex-wrap items-end gap-4"
      onSubmit={(event) => {
        event.preventDefault()
        bottle.mutate(
          { material: symbol, name, from: inWords(form, taken), recipe, keep_until: until },
          {
            onSuccess: () => {
              setName('')
              tick.mutate({ item: `material:${symbol}`, done: true })
            },
          },
        )
      }}
    >
      <label className="flex flex-col gap-1">
        <span className="text-note text-slate">what is written on the bottle</span>
        <input
          className="field w-40"
          maxLength={40}
          placeholder="bottle C"
          value={name}
          onChange={(event) => {
            setName(event.target.value)
          }}
        />
      </label>
      <label className="flex flex-col gap-1">
        <span className="text-note text-slate">good until</span>
        <input
          type="date"
          className="field font-mono"
          value={until}
          onChange={(event) => {
            setUntil(event.target.value)
          }}
        />
      </label>
      <button type="submit" className="action" disabled={name.trim() === '' || bottle.isPending}>
        Put it into the room
      </button>
      {bottle.isError && <Failure error={bottle.error}>No bottle was put into the room.</Failure>}
      {bottle.isSuccess && (
        <FromShelf name={holds} unit={form.source === 'solid' ? 'g' : 'mL'} taken={Number(plain(taken))} />
      )}
      {bottles.some((b) => b.made != null) && (
        <ul className="w-full text-note" aria-label="made already">
          {bottles.map(
            (b) =>
              b.made && (
                <li key={b.name} className="border-t border-rule py-1">
                  <span className="font-semibold">{b.name}</span>: {b.measured}, from {b.made.from},{' '}
                  {b.made.by}
                </li>
              ),
          )}
        </ul>
      )}
    </form>
  )
}

/** What was taken comes off a container, where the shelf has one. */
function FromShelf({ name, unit, taken }: { name: string; unit: StockUnit; taken: number }) {
  const { stock, count } = useStock()
  const held = stock.data?.filter(
    ({ container }) => container.unit === unit && container.holds.toLowerCase() === name.toLowerCase(),
  )
  if (held === undefined || held.length === 0) return null
  if (count.isSuccess)
    return (
      <p role="status" className="w-full text-teal">
        Taken off the shelf.
      </p>
    )
  return (
    <p className="w-full">
      {held.map((s) => (
        <button
          key={s.id}
          type="button"
          className="mr-5 min-h-6 text-copper-text underline underline-offset-4"
          disabled={s.amount < taken || count.isPending}
          onClick={() => {
            count.mutate({ id: s.id, amount: s.amount - taken, reason: `${name}: a solution was made` })
          }}
        >
          take {amount(taken, unit)} of {amount(s.amount, unit)}
          {s.container.form !== '' && ` ${s.container.form}`} off the shelf
        </button>
      ))}
      {count.isError && <Failure error={count.error}>The shelf is as before.</Failure>}
    </p>
  )
}
