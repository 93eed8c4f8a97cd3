import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { client, unwrapped } from '@/api'
import { Failure } from '@/ui'

/** What is said most often across the benches. */
const USUAL = ['Five minutes left.', 'Goggles on.', 'Come to the front, please.', 'Write down every digit.']

/** A message to one group, or to all: it stands on their devices until they have read it. */
export function TellForm({ run, to, onSent }: { run: number; to: number | null; onSent: () => void }) {
  const [text, setText] = useState('')
  const queries = useQueryClient()
  const tell = useMutation({
    mutationFn: () =>
      unwrapped(
        client.POST('/api/v1/runs/{run}/messages', { params: { path: { run } }, body: { group: to, text } }),
      ),
    onSuccess: async () => {
      setText('')
      onSent()
      await queries.invalidateQueries({ queryKey: ['group', run] })
    },
  })
  return (
    <form
      aria-label={to === null ? 'tell all groups' : 'tell this group'}
      className="mb-5 border-y border-rule py-3 print:hidden"
      onSubmit={(event) => {
        event.preventDefault()
        tell.mutate()
      }}
    >
      <div className="flex flex-wrap items-end gap-x-4 gap-y-2">
        <label className="min-w-60 grow text-note text-slate">
          <span className="mb-0.5 block">
            {to === null ? 'to all groups' : 'to this group'}, shown on their devices
          </span>
          <input
            className="field w-full text-body text-ink"
            value={text}
            maxLength={300}
            autoFocus
            onChange={(event) => {
              setText(event.target.value)
            }}
          />
        </label>
        <button type="submit" className="action" disabled={text.trim() === '' || tell.isPending}>
          Tell {to === null ? 'all' : 'them'}
        </button>
      </div>
      <p className="mt-2 flex flex-wrap gap-x-5 text-note">
        {USUAL.map((words) => (
          <button
            key={words}
            type="button"
            className="min-h-6 text-copper-text underline underline-offset-4"
            onClick={() => {
              setText(words)
            }}
          >
            {words}
          </button>
        ))}
      </p>
      {tell.isError && <Failure error={tell.error} />}
    </form>
  )
}
