import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { Link, useNavigate } from 'react-router'
import { client, unwrapped, type BeginPractical, type PracticalHead } from '@/api'
import { Failure } from '@/ui'

/** Longest file that the server takes. */
const MOST = 200_000

/** A new practical: from nothing, from one of the library, or from a file. */
export function Begin({ practicals }: { practicals: readonly PracticalHead[] }) {
  const [title, setTitle] = useState('')
  const [of, setOf] = useState('')
  const [refused, setRefused] = useState<string | null>(null)
  const navigate = useNavigate()
  const queries = useQueryClient()
  const begin = useMutation({
    mutationFn: (body: BeginPractical) => unwrapped(client.POST('/api/v1/practicals', { body })),
    onSuccess: async (view) => {
      await queries.invalidateQueries({ queryKey: ['shelf'] })
      await navigate(`/plan/${view.id}`)
    },
  })
  const read = async (file: File | undefined) => {
    setRefused(null)
    if (!file) return
    if (file.size > 4 * MOST) {
      setRefused(
        `“${file.name}” has ${file.size.toLocaleString('en')} bytes; a practical file has at most ${MOST.toLocaleString('en')} characters. Nothing was taken.`,
      )
      return
    }
    begin.mutate({ kind: 'import', text: await file.text() })
  }
  return (
    <section aria-labelledby="begin" className="mt-8">
      <h2 id="begin" className="mb-2 text-body">
        a new practical
      </h2>
      <p className="border-t border-rule py-3">
        <Link to="/shelf/begin" className="text-copper-text underline underline-offset-4">
          Start from what you want to find
        </Link>
        <span className="text-slate">
          : from an equation and your glass to a complete practical, in a few questions.
        </span>
      </p>
      <form
        className="flex flex-wrap items-end gap-x-6 gap-y-3 border-t border-rule pt-3"
        onSubmit={(event) => {
          event.preventDefault()
          begin.mutate(of === '' ? { kind: 'blank', title } : { kind: 'copy', of, title })
        }}
      >
        <label className="text-note text-slate">
          <span className="mb-0.5 block">title</span>
          <input
            className="field w-72"
            value={title}
            maxLength={120}
            onChange={(event) => {
              setTitle(event.target.value)
            }}
          />
        </label>
        <label className="text-note text-slate">
          <span className="mb-0.5 block">begins</span>
          <select
            className="field w-72"
            value={of}
            onChange={(event) => {
              setOf(event.target.value)
            }}
          >
            <option value="">from nothing</option>
            {practicals.map((p) => (
              <option key={p.id} value={p.id}>
                as a copy of {p.title}
              </option>
            ))}
          </select>
        </label>
        <button type="submit" className="action" disabled={title.trim() === '' || begin.isPending}>
          Begin it
        </button>
        <label className="ml-auto text-note text-slate">
          <span className="mb-0.5 block">or from a file, *.practical.toml</span>
          <input
            type="file"
            accept=".toml"
            className="field w-72"
            onChange={(event) => {
              void read(event.target.files?.[0])
            }}
          />
        </label>
      </form>
      {refused !== null && <Failure error={new Error(refused)} />}
      {begin.isError && <Failure error={begin.error}>Nothing was begun.</Failure>}
    </section>
  )
}
