import { useState } from 'react'
import { Link, useNavigate } from 'react-router'
import { PACES, useRehearsals, type PracticalToPractise, type RunHead } from '@/api'
import { Failure } from '@/ui'
import { usePutAway, useRehearse } from './useRehearse'

/** Classes that never were, to try a practical, a board and a marking on. */
export function Rehearsals({ practicals }: { practicals: readonly PracticalToPractise[] }) {
  const rehearsals = useRehearsals()
  return (
    <section aria-labelledby="rehearsals" className="mb-8">
      <h2 id="rehearsals" className="mb-1 text-body">
        rehearsals
      </h2>
      <p className="mb-3 max-w-[44rem] text-slate">
        A made-up class works through a practical on the real board, and you can mark it. It does not appear
        among your runs or in anybody’s record.
      </p>
      <Begin practicals={practicals} />
      {rehearsals.isError && <Failure error={rehearsals.error} />}
      <ul className="mt-3">
        {rehearsals.data?.map((run) => (
          <Line key={run.id} run={run} />
        ))}
      </ul>
    </section>
  )
}

const GROUPS = [2, 4, 8, 12, 16, 24, 40]
const PARTS = [0, 10, 25, 50]

function Begin({ practicals }: { practicals: readonly PracticalToPractise[] }) {
  const [practical, setPractical] = useState('')
  const [groups, setGroups] = useState(8)
  const [pace, setPace] = useState(60)
  const [bench, setBench] = useState(25)
  const [sums, setSums] = useState(25)
  const rehearse = useRehearse()
  const navigate = useNavigate()
  const chosen = practical === '' ? (practicals[0]?.id ?? '') : practical
  return (
    <form
      className="flex flex-wrap items-end gap-x-4 gap-y-3"
      onSubmit={(event) => {
        event.preventDefault()
        const seed = 1 + Math.floor(Math.random() * 9999)
        rehearse.mutate(
          { practical: chosen, groups, pace, slips_at_bench: bench, slips_in_sums: sums, seed },
          { onSuccess: (run) => void navigate(`/board/${run.id}`) },
        )
      }}
    >
      <label className="flex flex-col gap-1 text-note text-slate">
        practical
        <select
          className="field max-w-72 text-body text-ink"
          value={chosen}
          onChange={(event) => {
            setPractical(event.target.value)
          }}
        >
          {practicals.map((p) => (
            <option key={p.id} value={p.id}>
              {p.title}
            </option>
          ))}
        </select>
      </label>
      <Choice label="groups" value={groups} of={GROUPS} words={String} onChange={setGroups} />
      <Choice label="pace" value={pace} of={PACES} words={(n) => `${n}×`} onChange={setPace} />
      <Choice
        label="bench slips"
        value={bench}
        of={PARTS}
        words={(n) => `${n} % of groups`}
        onChange={setBench}
      />
      <Choice label="wrong sums" value={sums} of={PARTS} words={(n) => `${n} % of sums`} onChange={setSums} />
      <button type="submit" className="action" disabled={rehearse.isPending || chosen === ''}>
        Rehearse
      </button>
      {rehearse.isError && <Failure error={rehearse.error} />}
    </form>
  )
}

function Choice({
  label,
  value,
  of,
  words,
  onChange,
}: {
  label: string
  value: number
  of: readonly number[]
  words: (n: number) => string
  onChange: (n: number) => void
}) {
  return (
    <label className="flex flex-col gap-1 text-note text-slate">
      {label}
      <select
        className="field text-body text-ink"
        value={value}
        onChange={(event) => {
          onChange(Number(event.target.value))
        }}
      >
        {of.map((n) => (
          <option key={n} value={n}>
            {words(n)}
          </option>
        ))}
      </select>
    </label>
  )
}

function Line({ run }: { run: RunHead }) {
  const putAway = usePutAway()
  const at = run.rehearsing
  return (
    <li className="flex flex-wrap items-baseline gap-x-6 border-t border-rule py-2">
      <Link
        to={`/board/${run.id}`}
        className="font-semibold underline decoration-rule underline-offset-4 hover:decoration-copper"
      >
        {run.title}
      </Link>
      <span className="grow text-slate">
        {run.groups} groups
        {at != null && (at.said < at.of ? `, ${Math.round((100 * at.said) / at.of)} % done` : ', finished')}
      </span>
      <Link to={`/check/${run.id}`} className="quiet">
        check
      </Link>
      <button
        type="button"
        className="quiet"
        disabled={putAway.isPending}
        onClick={() => {
          putAway.mutate(run.id)
        }}
      >
        archive
      </button>
      {putAway.isError && <Failure error={putAway.error} />}
    </li>
  )
}
