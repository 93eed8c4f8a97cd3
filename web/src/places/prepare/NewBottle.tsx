import { useState } from 'react'
import type { Bottle, SolutionQuestion } from '@/api'
import { Failure } from '@/ui'
import { inWords, type RecipeForm } from './recipe'
import { usePreparing } from './usePreparation'

/** Puts what was made into the room: groups take from it, and their sums use its strength. */
export function NewBottle({
  run,
  symbol,
  bottles,
  form,
  taken,
  recipe,
}: {
  run: number
  symbol: string
  bottles: readonly Bottle[]
  form: RecipeForm
  taken: string
  recipe: SolutionQuestion
}) {
  const { bottle, tick } = usePreparing(run)
  const [name, setName] = useState('')
  return (
    <form
      className="mt-6 flex flex-wrap items-end gap-4"
      onSubmit={(event) => {
        event.preventDefault()
        bottle.mutate(
          { material: symbol, name, from: inWords(form, taken), recipe },
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
        <span className="text-note text-slate">what stands on the bottle</span>
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
      <button type="submit" className="action" disabled={name.trim() === '' || bottle.isPending}>
        Put it into the room
      </button>
      {bottle.isError && <Failure error={bottle.error}>No bottle was put into the room.</Failure>}
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
