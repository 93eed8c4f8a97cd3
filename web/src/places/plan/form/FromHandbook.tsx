import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { client, unwrapped, type Edit, type SubstanceView } from '@/api'
import { Formula, HazardMark, Unit } from '@/ui'
import { free } from './blank'
import { useForm } from './formContext'

/** A material from the substances of the Handbook: searched by any name, confirmed by its formula. */
export function FromHandbook({ onAdd }: { onAdd: (what: string, edit: Edit) => void }) {
  const { file, editing } = useForm()
  const [wanted, setWanted] = useState('')
  const typed = wanted.trim()
  const substances = useQuery({
    queryKey: ['substances', typed],
    queryFn: () =>
      unwrapped(client.GET('/api/v1/handbook/substances', { params: { query: { find: typed } } })),
    enabled: typed.length >= 2,
    placeholderData: keepPreviousData,
    staleTime: Infinity,
  })
  if (editing.readOnly) return null
  const found = typed.length >= 2 ? (substances.data?.found.slice(0, 5) ?? []) : []
  const add = (view: SubstanceView, form: number) => {
    const name = view.substance.name
    const symbol = free(
      (name.split(/[\s(]/)[0] ?? 'substance').toLowerCase().replaceAll(/[^a-z]/g, '') || 'substance',
      (file.materials ?? []).map((m) => m.symbol),
    )
    onAdd(`new: ${name}`, { kind: 'insert', path: ['materials'], value: material(view, symbol, form) })
    setWanted('')
  }
  return (
    <div className="mt-1 text-note print:hidden">
      <label className="flex items-baseline gap-2 text-slate">
        add from the Handbook
        <input
          type="search"
          className="field w-64"
          placeholder="name or formula"
          value={wanted}
          onChange={(event) => {
            setWanted(event.target.value)
          }}
        />
        {substances.data?.near != null && typed.length >= 2 && <span>as “{substances.data.near}”</span>}
      </label>
      {typed.length >= 2 && substances.isSuccess && found.length === 0 && (
        <p className="mt-1 text-slate">
          Not in the Handbook: add a material and fill it in from the supplier's sheet.
        </p>
      )}
      <ul>
        {found.map((view) => (
          <li
            key={view.substance.name}
            className="flex flex-wrap items-center gap-x-4 border-b border-rule py-1.5"
          >
            <b className="font-semibold">{view.substance.name}</b>
            <Formula runs={view.runs} />
            <span className="font-mono">
              {view.molar_mass}
              <Unit of="g/mol" />
            </span>
            {(view.hazards.length === 0 ? [{ form: 'any', pictograms: [] }] : view.hazards).map((h, i) => (
              <button
                key={h.form}
                type="button"
                className="flex min-h-9 items-center gap-1.5 underline decoration-rule underline-offset-4 hover:decoration-copper"
                onClick={() => {
                  add(view, i)
                }}
              >
                {h.pictograms.map((p) => (
                  <HazardMark key={p} kind={p} size={22} />
                ))}
                add {h.form === 'any' ? 'it' : h.form}
              </button>
            ))}
          </li>
        ))}
      </ul>
    </div>
  )
}

/** What the Handbook knows of a substance, as a material of the file. */
function material(view: SubstanceView, symbol: string, form: number): Record<string, unknown> {
  const s = view.substance
  const liquid = /liquid/.test(s.looks) && s.density != null
  return {
    symbol,
    name: s.name,
    also: s.also?.[0] ?? null,
    formula: s.formula,
    role: 'excess',
    form: liquid ? { kind: 'liquid', density: `${s.density ?? ''} g/mL` } : { kind: 'solid' },
    melts: s.melts == null ? null : `${s.melts} °C`,
    boils: s.boils == null ? null : `${s.boils} °C`,
    solubility: s.solubility ?? null,
    hazards: view.hazards[form]?.statements.length ? view.hazards[form].statements : null,
  }
}
