import { describe, expect, it } from 'vitest'
import type { SolutionNeed } from '@/api'
import { amount } from './amount'
import { inWords, isWhole, made, toTake, usualRecipe, type RecipeForm } from './recipe'

const base: SolutionNeed = {
  molar: 0.1,
  formula: 'NaOH',
  solids: [{ formula: 'NaOH', grams: 3.84 }],
  concentrated: [],
  making: [],
  bottle: '',
  keeps: '',
  to_be_standardised: true,
}
const acid: SolutionNeed = {
  ...base,
  formula: 'HCl',
  solids: [],
  concentrated: [{ sold: { strength: '37 % w/w', density: '1.18 g/mL' }, millilitres: 8.35 }],
}
const flasks = [250, 500, 1000, 2000].map((volume) => ({ volume, tolerance: volume / 1000 }))

describe('a recipe', () => {
  it('opens in a flask that is hardly larger, or in what is needed', () => {
    expect(usualRecipe(base, 960, flasks)).toMatchObject({ source: 'solid', volume: '1000', tolerance: '1' })
    // 1000 mL are too much for 360: made as it is needed, to a part in a hundred.
    expect(usualRecipe(base, 360, flasks)).toMatchObject({ volume: '360', tolerance: '4' })
    expect(usualRecipe(acid, 1000, flasks)).toMatchObject({ source: 'concentrated', sold: '37 % w/w' })
    expect(usualRecipe({ ...base, solids: [] }, 100, [])).toMatchObject({ source: 'dilution', stock: '' })
  })

  it('asks the core with a point where a comma was typed', () => {
    const form: RecipeForm = { ...usualRecipe(base, 1000, flasks), purity: '98,5', step: '0,01' }
    expect(isWhole(form)).toBe(true)
    expect(toTake(form, 0.1)).toMatchObject({
      ask: 'weigh-out',
      purity: '98.5 %',
      step: '0.01 g',
      volume: '1000 mL',
    })
    expect(made(form, '4,02', 0.1)).toMatchObject({
      mass: { value: '4.02 g', components: [{ half_width: 0.005, times: 2 }] },
      purity: '98.5 %',
    })
    expect(inWords(form, '4,02')).toBe('4.02 g NaOH in 1000 mL')
    const strong = usualRecipe(acid, 1000, flasks)
    expect(toTake(strong, 0.1)).toMatchObject({
      ask: 'concentrated',
      mass_fraction: '37 %',
      density: '1.18 g/mL',
    })
    // Pure is exact: nothing is unsure about it.
    expect(made({ ...form, purity: '100' }, '4.00', 0.1)).toMatchObject({
      purity: { value: '100 %', components: [] },
    })
  })

  it('waits for what is missing or is no number', () => {
    const form = usualRecipe(base, 1000, flasks)
    for (const part of [
      { volume: '' },
      { volume: '0' },
      { step: 'fine' },
      { formula: ' ' },
      { purity: '-1' },
      { tolerance: '1e' },
    ]) {
      expect(isWhole({ ...form, ...part })).toBe(false)
    }
    expect(isWhole({ ...form, source: 'dilution' })).toBe(false)
    expect(isWhole({ ...form, source: 'dilution', stock: '1,00' })).toBe(true)
  })
})

describe('an amount', () => {
  it('is told in the unit that a label would have, with three figures', () => {
    const told = ([0, 3.84, 960, 1450, 0.09, 2300] as const).map((v) => amount(v, 'mL'))
    expect(told).toEqual([
      '0\u2009mL',
      '3.84\u2009mL',
      '960\u2009mL',
      '1.45\u2009L',
      '0.09\u2009mL',
      '2.3\u2009L',
    ])
    expect([0.09, 22.5, 1200].map((v) => amount(v, 'g'))).toEqual([
      '90\u2009mg',
      '22.5\u2009g',
      '1.2\u2009kg',
    ])
  })
})
