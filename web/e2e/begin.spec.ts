import { expect, test, type Page } from '@playwright/test'
import { instructor } from './people'

/** What a teacher presses and types for each aim; the rest is proposed. */
const AIMS: readonly { name: string; said: Readonly<Record<string, string>>; reads: RegExp }[] = [
  {
    name: 'of a titrant, against a weighed standard',
    said: { equation: 'Na2CO3 + HCl -> NaCl + H2O + CO2' },
    reads: /tip 0\.11 g to 0\.15 g of sodium carbonate/,
  },
  {
    name: 'of a titrant, against a solution of known strength',
    said: { equation: 'HCl + NaOH -> NaCl + H2O' },
    reads: /Add phenolphthalein, 0\.5 % w\/v in ethanol, 2 drops/,
  },
  {
    name: 'of an unknown solution, by titration',
    said: { equation: 'CH3COOH + NaOH -> CH3COONa + H2O', 'expected strength': '0.7 to 1.0 mol/L' },
    reads: /Pipette 25\.00 mL of the sample into the 250 mL flask/,
  },
  {
    name: 'the part that reacts, by back titration',
    said: { equation: 'CaCO3 + HCl -> CaCl2 + H2O + CO2', 'the other equation': 'HCl + NaOH -> NaCl + H2O' },
    reads: /Titrate the hydrochloric acid that is left over/,
  },
  {
    name: 'of a salt that crystallises',
    said: { equation: 'CuO + H2SO4 + H2O -> CuSO4·5H2O' },
    reads: /weigh about 1\.59 g of copper\(II\) oxide/,
  },
  {
    name: 'of a precipitate',
    said: { equation: 'CaCl2 + Na2CO3 -> CaCO3 + NaCl' },
    reads: /Keep it at about 80 °C/,
  },
  {
    name: 'of an organic solid, recrystallised',
    said: { equation: 'C7H9N + C7H5ClO -> C14H13NO + HCl' },
    reads: /just enough hot ethanol/,
  },
  {
    name: 'of an organic liquid, distilled',
    said: { equation: 'CH3COOH + C2H5OH -> CH3COOC2H5 + H2O', catalyst: 'sulfuric acid' },
    reads: /collect what comes over up to 79 °C/,
  },
  {
    name: 'what comes back from recrystallising',
    said: { substance: 'benzoic acid' },
    reads: /crude benzoic acid/,
  },
  {
    name: 'the formula of a compound of two elements',
    said: { equation: 'Mg + O2 -> MgO' },
    reads: /lifting the lid now and then to let air in/,
  },
  { name: 'waters of crystallisation', said: { 'salt, with its water': 'MgSO4·7H2O' }, reads: /driven off/ },
  {
    name: 'the part of an ion, weighed as a precipitate',
    said: { equation: 'Ba^2+ + SO4^2- -> BaSO4' },
    reads: /of barium chloride dihydrate, slowly/,
  },
  {
    name: 'the part that does not dissolve',
    said: { substance: 'sodium chloride', 'what does not dissolve': 'sand' },
    reads: /What part of the mixture did not dissolve/,
  },
  {
    name: 'a standard solution from a weighed solid',
    said: { substance: 'CuSO4·5H2O' },
    reads: /copper\(II\) sulfate pentahydrate and dissolve it/,
  },
  {
    name: 'the same, and a dilution series',
    said: { substance: 'CuSO4·5H2O' },
    reads: /run 5, 10, 15, 20, 25 mL of the stock|run 10, 20, 30, 40, 50 mL of the stock/,
  },
  {
    name: 'the reagent that runs out, in two recipes',
    said: { equation: 'CaCl2 + Na2CO3 -> CaCO3 + NaCl', 'excess of the other one': '40 %' },
    reads: /keep the filtrate for the two tests/,
  },
  {
    name: 'the reaction that happens',
    said: {
      equation: 'Cu + AgNO3 -> Cu(NO3)2 + Ag',
      'the other equation': 'Cu + AgNO3 -> CuNO3 + Ag',
      'seen with the first equation': 'blue',
      'seen with the other one': 'colourless',
    },
    reads: /leave it alone until the liquid no longer changes/,
  },
]

/** Most fields that may have to be typed, and presses from the shelf to a published practical. */
const MOST_TYPED = 4
const MOST_PRESSES = 4

async function published(page: Page): Promise<void> {
  await expect(page.getByText('nothing contradicts itself')).toBeVisible()
  await page.getByRole('button', { name: 'Publish as version 1' }).click()
  await expect(page.getByText(/version 1/).first()).toBeVisible()
}

test('each aim comes to a published practical in a handful of fields and presses', async ({ browser }) => {
  test.setTimeout(240_000)
  const page = await instructor(browser)
  for (const { name, said, reads } of AIMS) {
    await page.goto('/shelf')
    let presses = 0
    const press = async (what: ReturnType<Page['getByRole']>) => {
      await what.click()
      presses += 1
    }
    await press(page.getByRole('link', { name: 'a new practical' }))
    await press(page.getByRole('link', { name, exact: true }))
    for (const [label, value] of Object.entries(said)) {
      await page.getByLabel(label, { exact: true }).fill(value)
    }
    expect(Object.keys(said).length, name).toBeLessThanOrEqual(MOST_TYPED)
    await expect(page.getByRole('region', { name: 'how it will read' })).toContainText(reads)
    await press(page.getByRole('button', { name: 'Begin it' }))
    await published(page)
    expect(presses + 1, name).toBeLessThanOrEqual(MOST_PRESSES)
  }
})

test('what cannot be begun says why at its field, and nothing is lost', async ({ browser }) => {
  const page = await instructor(browser)
  await page.goto('/shelf/begin?find=titrant-by-mass')
  const equation = page.getByLabel('equation', { exact: true })
  const begin = page.getByRole('button', { name: 'Begin it' })
  await expect(begin).toBeDisabled()
  await equation.fill('Na2CO3 + HCl -> NaCl + H2O')
  await expect(page.getByRole('alert')).toContainText('it cannot balance')
  await equation.fill('Na2CO3 + HCl -> NaCl + H2O + CO2')
  await expect(page.getByLabel('mass to weigh out')).toHaveValue('0.13 g')
  await page.getByLabel('mass to weigh out').fill('0.5 g')
  await expect(page.getByRole('alert')).toContainText('the burette holds')
  // The address holds what was typed: a reload keeps it, and an emptied field goes back to what is proposed.
  await page.reload()
  await expect(page.getByLabel('mass to weigh out')).toHaveValue('0.5 g')
  await page.getByLabel('mass to weigh out').fill('')
  await page.getByLabel('title', { exact: true }).fill('"]]\n[[steps]] <b>mine</b>')
  await expect(page.getByLabel('mass to weigh out')).toHaveValue('0.13 g')
  await begin.click()
  await expect(page.getByRole('heading', { level: 1 })).toContainText('[[steps]] <b>mine</b>')
})
