import { useState } from 'react'
import { Link, useSearchParams } from 'react-router'
import type { MaterialNeed, PreparationView, SolutionAnswer, SolutionNeed } from '@/api'
import { Failure, HazardMark, Unit, WorkedLines } from '@/ui'
import { IntoVessels } from './bottles/IntoVessels'
import { NewBottle } from './bottles/NewBottle'
import {
  isNumber,
  isWhole,
  made,
  plain,
  stepOf,
  toTake,
  usualRecipe,
  type RecipeForm,
  type Source,
} from './recipe'
import { useCompute } from './useCompute'
import { useFlasks } from './useFlasks'
import { useWhich } from './usePreparation'

/** One solution, step by step: what to take, what was taken, what that made. */
export function Recipe({ of, symbol }: { of: PreparationView; symbol: string }) {
  const need = of.preparation.materials.find((m) => m.symbol === symbol)
  const { base, search } = useWhich()
  const [query] = useSearchParams()
  const make = Number(query.get('make') ?? '')
  if (need?.solution == null || need.total == null) {
    return (
      <p>
        This practical makes no such solution.{' '}
        <Link className="text-copper-text underline underline-offset-4" to={`${base}/solutions${search}`}>
          All solutions
        </Link>
      </p>
    )
  }
  return (
    <Making of={of} need={need} solution={need.solution} provide={make > 0 ? make : need.total.provide} />
  )
}

function Making({
  of,
  need,
  solution,
  provide,
}: {
  of: PreparationView
  need: MaterialNeed
  solution: SolutionNeed
  provide: number
}) {
  const flasks = useFlasks()
  const [changed, setChanged] = useState<RecipeForm | null>(null)
  const form = changed ?? usualRecipe(solution, provide, flasks)
  const [taken, setTaken] = useState('')
  const { molar } = solution
  const whole = molar != null && isWhole(form)
  const recipe = useCompute(whole ? toTake(form, molar) : null)
  const result = useCompute(
    whole && isNumber(taken) ? { kind: 'solution', ...made(form, taken, molar) } : null,
  )
  const unit = form.source === 'solid' ? 'g' : 'mL'
  if (molar == null) {
    return (
      <p className="text-slate">
        Its strength is not said as an amount: the practical’s own words say how it is made.
      </p>
    )
  }
  return (
    <div className="grid gap-x-12 gap-y-8 desk:grid-cols-[minmax(0,1fr)_minmax(0,1fr)]">
      <div>
        <h2 className="mb-3 text-lead">
          {need.name}, {need.form}{' '}
          {need.pictograms.map((p) => (
            <HazardMark key={p} kind={p} size={28} />
          ))}
        </h2>
        <From form={form} solution={solution} onChange={setChanged} />
        {isNumber(form.volume) && <IntoVessels volume={plain(form.volume)} />}
        <ol className="mt-6 list-none">
          {recipe.data?.rounded && (
            <Take value={recipe.data.rounded.take} unit={recipe.data.rounded.unit} form={form} />
          )}
          {form.source === 'solid' && <Step>Dissolve it in about two thirds of the water.</Step>}
          {solution.making.map((text) => (
            <Step key={text}>{text}</Step>
          ))}
          <Step>
            Make up to <span className="font-mono">{form.volume}</span>
            <Unit of="mL" /> and mix well.
          </Step>
          {solution.bottle !== '' && <Step>Keep it in a {solution.bottle}.</Step>}
          {solution.keeps !== '' && <Step>It keeps: {solution.keeps}.</Step>}
          {solution.to_be_standardised && (
            <Step>Its strength is measured afterwards: what is weighed need only be about right.</Step>
          )}
        </ol>
        {recipe.isError && <Failure error={recipe.error} />}
        {need.hazards.length > 0 && (
          <ul className="mt-4 border-l-3 border-amber pl-3 text-note">
            {need.hazards.map((h) => (
              <li key={h}>{h}</li>
            ))}
            <li className="text-slate">The concentrated form is worse: see the supplier’s sheet.</li>
          </ul>
        )}
      </div>
      <div className="print:hidden">
        <label className="flex flex-col gap-1">
          <span className="text-note text-slate">what was really taken, {unit}</span>
          <input
            className="field w-40 font-mono text-lead"
            inputMode="decimal"
            value={taken}
            placeholder={recipe.data?.rounded?.take ?? ''}
            onChange={(event) => {
              setTaken(event.target.value)
            }}
          />
        </label>
        {taken.trim() !== '' && !isNumber(taken) && (
          <p role="status" className="mt-1 text-note text-amber-text">
            A number as the balance shows it, such as 4.02.
          </p>
        )}
        {!whole && (
          <p role="status" className="mt-1 text-note text-amber-text">
            Something is missing on the left, or is no number above zero.
          </p>
        )}
        {result.isError && <Failure error={result.error} />}
        {result.data && <Strength answer={result.data} />}
        {result.data && of.run != null && (
          <NewBottle
            run={of.run}
            symbol={need.symbol}
            holds={need.name}
            bottles={of.bottles}
            form={form}
            taken={taken}
            recipe={made(form, taken, molar)}
          />
        )}
        {result.data && of.run == null && (
          <p className="mt-4 text-note text-slate">
            Prepared as if: a bottle is put into the room from the preparation of a run.
          </p>
        )}
      </div>
    </div>
  )
}

function Take({ value, unit, form }: { value: string; unit: string; form: RecipeForm }) {
  const solid = form.source === 'solid'
  return (
    <Step>
      {solid ? 'Weigh' : 'Measure out'} <span className="text-board font-mono">{value}</span>
      <Unit of={unit} />{' '}
      {solid
        ? `of ${form.formula}`
        : form.source === 'concentrated'
          ? `of ${form.sold}`
          : `of ${form.stock} mol/L`}
      {!solid && ' into about half of the water'}.
    </Step>
  )
}

function Step({ children }: { children: React.ReactNode }) {
  return <li className="border-t border-rule py-2 last:border-b">{children}</li>
}

/** What it is made from. */
function From({
  form,
  solution,
  onChange,
}: {
  form: RecipeForm
  solution: SolutionNeed
  onChange: (form: RecipeForm) => void
}) {
  const set = (part: Partial<RecipeForm>) => {
    onChange({ ...form, ...part })
  }
  const sources: [Source, string][] = [
    ['solid', 'from the solid'],
    ['concentrated', 'from a concentrated reagent'],
    ['dilution', 'from a stronger solution'],
  ]
  return (
    <div>
      <div role="radiogroup" aria-label="made from" className="mb-3 flex flex-wrap gap-x-6 print:hidden">
        {sources.map(([source, words]) => (
          <label key={source} className="flex min-h-11 items-center gap-2">
            <input
              type="radio"
              name="source"
              className="size-5 accent-copper"
              checked={form.source === source}
              onChange={() => {
                set({ source, step: stepOf(source) })
              }}
            />
            {words}
          </label>
        ))}
      </div>
      <div className="flex flex-wrap gap-4 print:hidden">
        {form.source === 'solid' && (
          <>
            <Typed
              label="as weighed"
              value={form.formula}
              onChange={(formula) => {
                set({ formula })
              }}
              wide
            />
            <Typed
              label="purity, %"
              value={form.purity}
              onChange={(purity) => {
                set({ purity })
              }}
            />
          </>
        )}
        {form.source === 'concentrated' && (
          <>
            <Typed
              label="on the bottle"
              value={form.sold}
              onChange={(sold) => {
                set({ sold })
              }}
              wide
            />
            <Typed
              label="density"
              value={form.density}
              onChange={(density) => {
                set({ density })
              }}
              wide
            />
          </>
        )}
        {form.source === 'dilution' && (
          <Typed
            label="its strength, mol/L"
            value={form.stock}
            onChange={(stock) => {
              set({ stock })
            }}
            wide
          />
        )}
        <Typed
          label="to make, mL"
          value={form.volume}
          onChange={(volume) => {
            set({ volume })
          }}
        />
        <Typed
          label="volume ±, mL"
          value={form.tolerance}
          onChange={(tolerance) => {
            set({ tolerance })
          }}
        />
        <Typed
          label={form.source === 'solid' ? 'balance shows, g' : 'measured to, mL'}
          value={form.step}
          onChange={(step) => {
            set({ step })
          }}
        />
      </div>
      {form.source === 'concentrated' && solution.concentrated.length > 1 && (
        <p className="mt-2 text-note print:hidden">
          {solution.concentrated.map((c) => (
            <button
              key={c.sold.strength}
              type="button"
              className="mr-4 min-h-6 text-copper-text underline underline-offset-4"
              onClick={() => {
                set({ sold: c.sold.strength, density: c.sold.density })
              }}
            >
              {c.sold.strength}, {c.sold.density}
            </button>
          ))}
        </p>
      )}
    </div>
  )
}

function Typed({
  label,
  value,
  onChange,
  wide = false,
}: {
  label: string
  value: string
  onChange: (value: string) => void
  wide?: boolean
}) {
  return (
    <label className="flex flex-col gap-1">
      <span className="text-note text-slate">{label}</span>
      <input
        className={`field font-mono ${wide ? 'w-40' : 'w-24'}`}
        value={value}
        onChange={(event) => {
          onChange(event.target.value)
        }}
      />
    </label>
  )
}

/** The strength that was made, how sure, and how far from the plan. */
function Strength({ answer }: { answer: SolutionAnswer }) {
  const c = answer.worked?.results.find((r) => r.name === 'c')
  const off = answer.worked?.results.find((r) => r.name === 'off')
  if (c === undefined) return null
  return (
    <div className="mt-4">
      <p className="text-note text-slate">that makes</p>
      <p className="text-value font-mono">
        {c.rounded ?? c.text}
        <span className="text-lead">
          <Unit of={c.unit} />
        </span>
      </p>
      <p className="text-slate">
        {c.expanded != null && `U = ${c.expanded} ${c.unit}, k = 2`}
        {off && ` · ${away(off.value)}`}
      </p>
      <details className="mt-3">
        <summary>worked out</summary>
        <WorkedLines lines={answer.worked?.lines ?? []} />
      </details>
    </div>
  )
}

/** How far it is from what was planned, in words. */
function away(percent: number): string {
  if (Math.abs(percent) < 0.05) return 'as planned'
  const size = Number(Math.abs(percent).toPrecision(2))
  return `${size}\u2009% ${percent > 0 ? 'stronger' : 'weaker'} than planned`
}
