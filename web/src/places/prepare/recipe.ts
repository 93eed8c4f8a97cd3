import type { ComputeRequest, SolutionNeed, SolutionQuestion } from '@/api'

/** What a solution is made from, and into what. Numbers are as typed. */
export interface RecipeForm {
  source: Source
  /** Of a solid, as it is weighed; of a concentrated reagent, what is in it. */
  formula: string
  /** Mass fraction of the solid, %. */
  purity: string
  /** As on the bottle: `37 % w/w`. */
  sold: string
  /** As on the bottle: `1.18 g/mL`. */
  density: string
  /** Strength of the solution that is diluted, mol/L. */
  stock: string
  /** To be made, mL. */
  volume: string
  /** The volume may be off by this much, mL. */
  tolerance: string
  /** Step of the balance, g; of what measures a volume, mL. */
  step: string
}

const HARDLY_LARGER = 1.25

export type Source = 'solid' | 'concentrated' | 'dilution'

/** A volumetric flask, mL. */
export interface Flask {
  volume: number
  tolerance: number
}

/** The form as it opens: from what is usual, for what is provided, in a flask where one is hardly larger. */
export function usualRecipe(need: SolutionNeed, provide: number, flasks: readonly Flask[]): RecipeForm {
  const flask = flasks.find((f) => f.volume >= provide && f.volume <= HARDLY_LARGER * provide)
  const concentrated = need.concentrated[0]?.sold
  const solid = need.solids[0]
  const source: Source = solid ? 'solid' : concentrated ? 'concentrated' : 'dilution'
  return {
    source,
    formula: solid?.formula ?? need.formula,
    purity: '100',
    sold: concentrated?.strength ?? '',
    density: concentrated?.density ?? '',
    stock: '',
    volume: String(flask?.volume ?? provide),
    tolerance: flask ? String(flask.tolerance) : toleranceOf(provide),
    step: stepOf(source),
  }
}

/** What a balance of the prep room and a cylinder show. */
export function stepOf(source: Source): string {
  return source === 'solid' ? '0.01' : '0.5'
}

/** A part in a hundred: a graduated vessel. A volumetric flask is surer, and its tolerance is typed. */
export function toleranceOf(volume: number): string {
  return String(Number((volume / 100).toPrecision(1)))
}

/** A number as typed, with a point: a comma is one here, since nobody weighs thousands. */
export function plain(text: string): string {
  return text.trim().replace(',', '.')
}

export function isNumber(text: string): boolean {
  return /^\d*\.?\d+$/.test(plain(text))
}

/** Whether all that this source needs is there. */
export function isWhole(form: RecipeForm): boolean {
  const number = (text: string) => isNumber(text) && Number(plain(text)) > 0
  if (!number(form.volume) || !number(form.step) || !number(form.tolerance)) return false
  switch (form.source) {
    case 'solid':
      return form.formula.trim() !== '' && number(form.purity)
    case 'concentrated':
      return form.sold.trim() !== '' && form.density.trim() !== ''
    case 'dilution':
      return number(form.stock)
  }
}

/** How much is to be taken for this strength, mol/L? */
export function toTake(form: RecipeForm, molar: number): ComputeRequest {
  const volume = `${plain(form.volume)} mL`
  const target = `${molar} mol/L`
  switch (form.source) {
    case 'solid':
      return {
        kind: 'solution',
        ask: 'weigh-out',
        solute: form.formula.trim(),
        strength: target,
        volume,
        step: `${plain(form.step)} g`,
        purity: `${plain(form.purity)} %`,
      }
    case 'concentrated':
      return {
        kind: 'solution',
        ask: 'concentrated',
        solute: form.formula.trim(),
        mass_fraction: fraction(form.sold),
        density: form.density.trim(),
        target,
        volume,
        step: `${plain(form.step)} mL`,
      }
    case 'dilution':
      return {
        kind: 'solution',
        ask: 'dilute',
        stock: `${plain(form.stock)} mol/L`,
        target,
        volume,
        step: `${plain(form.step)} mL`,
      }
  }
}

/** What was made of what was really taken? */
export function made(form: RecipeForm, taken: string, molar: number): SolutionQuestion {
  const half = (text: string, times: number) => ({
    kind: 'rectangular' as const,
    half_width: Number(plain(text)) / 2,
    times,
  })
  const volume = {
    value: `${plain(form.volume)} mL`,
    components: [{ kind: 'rectangular' as const, half_width: Number(plain(form.tolerance)), times: 1 }],
  }
  const wanted = `${molar} mol/L`
  switch (form.source) {
    case 'solid':
      return {
        ask: 'made',
        solute: form.formula.trim(),
        // Two readings: empty and full.
        mass: { value: `${plain(taken)} g`, components: [half(form.step, 2)] },
        purity: plain(form.purity) === '100' ? { value: '100 %', components: [] } : `${plain(form.purity)} %`,
        volume,
        wanted,
      }
    case 'concentrated':
      return {
        ask: 'made-from-concentrated',
        solute: form.formula.trim(),
        mass_fraction: fraction(form.sold),
        density: form.density.trim(),
        taken: { value: `${plain(taken)} mL`, components: [half(form.step, 1)] },
        volume,
        wanted,
      }
    case 'dilution':
      return {
        ask: 'diluted',
        stock: `${plain(form.stock)} mol/L`,
        taken: { value: `${plain(taken)} mL`, components: [half(form.step, 1)] },
        volume,
      }
  }
}

/** What it was made from, as it stands on the bottle. */
export function inWords(form: RecipeForm, taken: string): string {
  switch (form.source) {
    case 'solid':
      return `${plain(taken)} g ${form.formula.trim()} in ${plain(form.volume)} mL`
    case 'concentrated':
      return `${plain(taken)} mL of ${form.sold.trim()} in ${plain(form.volume)} mL`
    case 'dilution':
      return `${plain(taken)} mL of ${plain(form.stock)} mol/L in ${plain(form.volume)} mL`
  }
}

/** `37 % w/w` as a fraction that the core reads. */
function fraction(sold: string): string {
  return sold.replace('w/w', '').trim()
}
