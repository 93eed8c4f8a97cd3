import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { useSearchParams } from 'react-router'
import { client, unwrapped, type SubstanceView } from '@/api'
import { Failure, Find, Formula, HazardMark, Unit } from '@/ui'

/** The substances: names, facts, hazards by form and strength. A blank says where to look. */
export function Substances() {
  const [address, setAddress] = useSearchParams()
  const [wanted, setWanted] = useState(address.get('find') ?? '')
  const substances = useQuery({
    queryKey: ['substances', wanted],
    queryFn: () =>
      unwrapped(client.GET('/api/v1/handbook/substances', { params: { query: { find: wanted } } })),
    placeholderData: keepPreviousData,
    staleTime: Infinity,
  })
  if (substances.isPending) return <p className="py-12 text-slate">Fetching the substances …</p>
  if (substances.isError) return <Failure error={substances.error} />
  const { found, near } = substances.data
  return (
    <div className="border-l border-copper pl-8">
      <div className="mb-2 flex items-end justify-between gap-6">
        <div>
          <h1 className="text-title">Substances</h1>
          <p className="text-slate">
            {found.length} shown. The supplier's safety data sheet and local rules come first; what is not
            certain is left out.
          </p>
        </div>
        <Find
          label="name or formula"
          wanted={wanted}
          onWanted={(find) => {
            setWanted(find)
            setAddress(find === '' ? {} : { find }, { replace: true })
          }}
        />
      </div>
      {near != null && (
        <p className="mb-2 text-note text-amber-text">
          Nothing is spelt “{wanted}”; this is what “{near}” finds. Confirm it by its formula.
        </p>
      )}
      {found.length === 0 && (
        <p className="border-y border-rule py-4 text-slate">
          No substance here has “{wanted}” in its names. The supplier's sheet has what there is.
        </p>
      )}
      <ul>
        {found.map((view) => (
          <One key={view.substance.name + view.substance.formula} view={view} />
        ))}
      </ul>
    </div>
  )
}

function One({ view }: { view: SubstanceView }) {
  const { substance: s, hazards } = view
  return (
    <li className="grid gap-x-8 gap-y-1 border-t border-rule py-3 tablet:grid-cols-[minmax(0,1fr)_minmax(0,1fr)_minmax(0,1.5fr)]">
      <div>
        <h2 className="text-body">{s.name}</h2>
        <p className="text-note text-slate">{(s.also ?? []).join(', ')}</p>
        <p className="text-lead">
          <Formula runs={view.runs} />
        </p>
        <p className="font-mono text-note">
          {view.molar_mass}
          <Unit of="g/mol" />
        </p>
      </div>
      <dl className="grid grid-cols-[auto_minmax(0,1fr)] content-start gap-x-3 text-note">
        <Fact name="looks" value={s.looks} />
        <Fact name="density" value={s.density} unit="g/mL" />
        <Fact name="melts" value={s.melts} unit="°C" />
        <Fact name="boils" value={s.boils} unit="°C" />
        {(s.acid_exponents ?? []).length > 0 && (
          <Fact name="pKa" value={(s.acid_exponents ?? []).join('; ')} />
        )}
        {s.solubility && (
          <Fact
            name="in 100 g of water"
            value={s.solubility.at.map(([t = 0, g = 0]) => `${g} g at ${t} °C`).join('; ')}
            unit={s.solubility.of === s.formula ? '' : `of ${s.solubility.of}`}
          />
        )}
        <Fact name="left over" value={s.disposal} />
      </dl>
      <div className="flex flex-col gap-2 text-note">
        {hazards.length === 0 && <p className="text-slate">hazards: see the supplier's sheet</p>}
        {hazards.map((h) => (
          <div key={h.form}>
            <p className="flex flex-wrap items-center gap-1.5">
              {h.pictograms.map((p) => (
                <HazardMark key={p} kind={p} />
              ))}
              <b className="font-semibold">{h.form === 'any' ? '' : h.form}</b>
              {h.statements.length === 0 && <span className="text-slate">not classified</span>}
            </p>
            {h.statements.length > 0 && <p>{h.statements.join(' ')}</p>}
            {h.advice.length > 0 && (
              <details className="text-slate">
                <summary>precautions</summary>
                {h.advice.map((a) => (
                  <p key={a}>{a}</p>
                ))}
              </details>
            )}
          </div>
        ))}
      </div>
    </li>
  )
}

/** A fact, or where to look for it. */
function Fact({
  name,
  value,
  unit = '',
}: {
  name: string
  value?: string | null | undefined
  unit?: string
}) {
  return (
    <>
      <dt className="text-slate">{name}</dt>
      <dd>
        {value == null || value === '' ? (
          <span className="text-pencil">see the supplier's sheet</span>
        ) : (
          <>
            {value}
            {unit !== '' && `\u2009${unit}`}
          </>
        )}
      </dd>
    </>
  )
}
