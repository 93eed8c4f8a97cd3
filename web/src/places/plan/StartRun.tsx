import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { useNavigate } from 'react-router'
import { client, told } from '@/api'
import { Failure } from '@/ui'

/** Names for groups when nobody has better ones: minerals, by the alphabet. */
const MINERALS = [
  'Beryl',
  'Calcite',
  'Dolomite',
  'Feldspar',
  'Galena',
  'Haematite',
  'Jasper',
  'Olivine',
  'Pyrite',
  'Quartz',
  'Rutile',
  'Sphalerite',
  'Talc',
  'Ulexite',
  'Vanadinite',
  'Witherite',
  'Zircon',
  'Apatite',
  'Barite',
  'Corundum',
] as const

/** Starts a run of this practical with a class. */
export function StartRun({ practical, draft }: { practical: string; draft: boolean }) {
  const [className, setClassName] = useState('')
  const [names, setNames] = useState(MINERALS.slice(0, 8).join(', '))
  const groups = names
    .split(/[,\n]/)
    .map((n) => n.trim())
    .filter(Boolean)
  const navigate = useNavigate()
  const queries = useQueryClient()
  const start = useMutation({
    mutationFn: () => told(client.POST('/api/v1/runs', { body: { practical, class: className, groups } })),
    onSuccess: async (run) => {
      await queries.invalidateQueries({ queryKey: ['shelf'] })
      await navigate(`/board/${run.id}`)
    },
  })
  return (
    <form
      className="mt-8 border-t border-copper pt-4 print:hidden"
      onSubmit={(event) => {
        event.preventDefault()
        start.mutate()
      }}
    >
      <h2 className="mb-3 text-body">start a run</h2>
      {draft && (
        <p className="mb-3 text-note text-slate">With the version last published, not with the draft.</p>
      )}
      <label className="mb-3 block">
        <span className="mb-1 block text-note text-slate">class</span>
        <input
          className="field w-full"
          value={className}
          maxLength={40}
          onChange={(event) => {
            setClassName(event.target.value)
          }}
        />
      </label>
      <label className="mb-3 block">
        <span className="mb-1 block text-note text-slate">groups, in bench order ({groups.length})</span>
        <textarea
          className="field w-full text-note"
          rows={4}
          value={names}
          maxLength={2000}
          onChange={(event) => {
            setNames(event.target.value)
          }}
        />
      </label>
      <Counts
        count={groups.length}
        onCount={(n) => {
          setNames(MINERALS.slice(0, n).join(', '))
        }}
      />
      {start.isError && <Failure error={start.error}>Nothing was started.</Failure>}
      <button
        type="submit"
        className="action"
        disabled={start.isPending || className.trim() === '' || groups.length === 0}
      >
        {start.isPending ? 'Starting …' : `Start with ${groups.length} groups`}
      </button>
    </form>
  )
}

function Counts({ count, onCount }: { count: number; onCount: (count: number) => void }) {
  return (
    <p className="mb-3 flex gap-3 text-note text-slate">
      minerals:
      {[4, 6, 8, 10, 12].map((n) => (
        <button
          key={n}
          type="button"
          aria-pressed={n === count}
          className="min-h-6 min-w-6 font-mono underline decoration-rule underline-offset-4 hover:text-ink aria-pressed:font-semibold aria-pressed:text-ink"
          onClick={() => {
            onCount(n)
          }}
        >
          {n}
        </button>
      ))}
    </p>
  )
}
