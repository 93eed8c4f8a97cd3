import { expect, test, type Page } from '@playwright/test'
import { instructor } from './people'

/** The workbench: a question typed, answered as it is typed, told in words when it makes no sense. */

async function workbench(page: Page, question: string): Promise<void> {
  await page.goto('/handbook')
  await page
    .getByRole('list', { name: 'questions' })
    .getByRole('link', { name: question, exact: true })
    .click()
  await expect(page.getByRole('form', { name: question })).toBeVisible()
}

test('a formula, an equation and what is wrong with them', async ({ browser }) => {
  const page = await instructor(browser)
  const answer = page.getByRole('region', { name: 'answer' })
  await workbench(page, 'formula')
  await page.getByRole('textbox', { name: 'formula' }).fill('K4[Fe(CN)6]·3H2O')
  await expect(answer).toContainText('422.390')
  await page.getByRole('textbox', { name: 'formula' }).fill('K4[Fe(CN]6')
  await expect(answer.getByRole('alert')).toContainText(
    'This bracket does not fit the one that it closes (character 9',
  )
  await page.getByRole('textbox', { name: 'formula' }).fill('(((' + 'H'.repeat(300))
  await expect(answer.getByRole('alert')).toContainText('at most 200 characters')

  await workbench(page, 'equation')
  await expect(answer).toContainText('Balanced with the smallest whole numbers')
  await page
    .getByRole('textbox', { name: 'equation' })
    .fill('KMnO4 + H2O2 + H2SO4 -> K2SO4 + MnSO4 + O2 + H2O')
  await expect(answer).toContainText('2 reactions are written as one')
  await page.getByRole('textbox', { name: 'equation' }).fill('Zn + H2 -> ZnCl2 + HCl')
  await expect(answer).toContainText('a substance stands on the wrong side')
})

test('a limiting reagent with its budget, and a question that a link shares', async ({ browser }) => {
  const page = await instructor(browser)
  const answer = page.getByRole('region', { name: 'answer' })
  await workbench(page, 'limiting reagent')
  // 20.00 mL of 0.200 mol/L sulfate give 4.00 mmol of 183.68 g/mol, 0.735 g; 0.684 g are 93.1 %. By hand.
  await expect(answer).toContainText('93.1')
  await expect(
    answer.getByRole('region', { name: 'uncertainty budget' }).getByRole('listitem').first(),
  ).toContainText('c')
  await page.getByLabel('used: mass, or volume; strength').nth(1).fill('35.0 mL; 0.200 mol/L')
  await expect(answer).toContainText('SrCl2; Na2SO4 is 24 % over')
  // Both within their uncertainty: the chance of each is told.
  await page.getByLabel('used: mass, or volume; strength').nth(1).fill('28.1 ± 0.5 mL; 0.200 mol/L')
  await expect(answer).toContainText(/Na2SO4 limits in \d+ of 100 draws/)
  const shared = page.url()
  await page.goto('/shelf')
  await page.goto(shared)
  await expect(page.getByLabel('used: mass, or volume; strength').nth(1)).toHaveValue(
    '28.1 ± 0.5 mL; 0.200 mol/L',
  )
  await page.getByLabel('mass found').fill('-1 g')
  await expect(answer.getByRole('alert')).toContainText('Actual cannot be negative')
})

test('titres that do not agree, a hydrate between two, a stock too weak', async ({ browser }) => {
  const page = await instructor(browser)
  const answer = page.getByRole('region', { name: 'answer' })
  await workbench(page, 'titration')
  await expect(answer).toContainText('0.09731')
  await page.getByLabel(/titres/).fill('25.10 mL; 25.70 mL; 26.30 mL')
  await expect(answer.getByRole('alert')).toContainText(
    'No two titres agree within 0.10 mL: run another titration',
  )

  await workbench(page, 'water of crystallisation')
  await expect(answer).toContainText('one formula fits')
  // Stopped at the hemihydrate: 1.41 waters lost, and no candidate there.
  await page.getByLabel('with the residue').fill('26.113 ± 0.003 g')
  await page.getByLabel(/numbers tried/).fill('0.5; 1; 2')
  await expect(answer).toContainText('no candidate fits')

  await workbench(page, 'dilution')
  await page.getByLabel('wanted').fill('3.00 mol/L')
  await expect(answer.getByRole('alert')).toContainText('A dilution cannot be stronger than its stock')
})

test('a titration curve, and a sheet of one\u2019s own with its mistakes told', async ({ browser }) => {
  const page = await instructor(browser)
  const answer = page.getByRole('region', { name: 'answer' })
  await workbench(page, 'titration curve')
  // A weak acid against as strong a base: pH = 7 + (4.76 + lg 0.0500)/2 = 8.73 at the point of equivalence.
  await expect(answer).toContainText('25.00\u202fmL pH 8.73')
  await expect(answer.getByRole('img')).toHaveAttribute(
    'aria-label',
    /^titration curve from pH 2\.88 to pH 12\.52/,
  )
  await page.getByRole('textbox', { name: 'pKa of the acid' }).fill('2.15; 7.20; 12.35')
  await expect(answer).toContainText('equivalence, proton 1')
  await page.getByRole('textbox', { name: 'pKa of the acid' }).fill('7.20; 2.15')
  await expect(answer.getByRole('alert')).toContainText('lowest first')
  await page.getByRole('textbox', { name: 'pKa of the acid' }).fill('')
  await expect(answer).toContainText('25.00\u202fmL pH 7.00')
  await page.getByRole('textbox', { name: 'run in up to' }).fill('a lot')
  await expect(answer).toContainText('Say up to which volume the curve is to be drawn.')

  await workbench(page, 'a sheet of your own')
  await expect(answer).toContainText('20.00')
  await expect(answer.getByRole('complementary')).toContainText('one formula fits')
  const sheet = page.getByRole('textbox', { name: 'definitions' })
  await sheet.fill('n_Cu = m_Cu / M(copper)\nwrong = m_Cu + n_Cu')
  await expect(answer.getByRole('alert')).toContainText('cannot be added to a mass (line 2, character 14')
  await sheet.fill('n = m_cu / M(copper)')
  await expect(answer.getByRole('alert')).toContainText("did you mean 'm_Cu'?")
  // What was typed is in the address: it is there again after a reload.
  await page.reload()
  await expect(sheet).toHaveValue('n = m_cu / M(copper)')
  await page.getByRole('textbox', { name: 'what was measured' }).fill('m_Cu 1.271 g')
  await expect(answer.getByRole('alert')).toBeVisible()
})

test('a school chooses how it works: told what cannot be, kept for plans and runs to come', async ({
  browser,
}) => {
  const page = await instructor(browser)
  await page.goto('/handbook/school')
  await expect(page.getByText('Nobody has chosen yet')).toBeVisible()
  await page.getByRole('radio', { name: /to the even digit/ }).click()
  await expect(page.getByRole('radio', { name: /to the even digit/ })).toBeChecked()
  await page.getByRole('radio', { name: /within a limit/ }).click()
  await page.getByLabel('the limit').fill('9 mL')
  await page.getByRole('button', { name: 'keep this limit' }).click()
  await expect(page.getByRole('alert')).toContainText('up to 2 mL')
  await expect(page.getByRole('alert')).toContainText('Nothing was changed')
  await page.getByLabel('the limit').fill('0.20 mL')
  await page.getByRole('button', { name: 'keep this limit' }).click()
  await page.getByRole('radio', { name: /our own table/ }).click()
  await page.getByRole('textbox', { name: /one element per line/ }).fill('Qq 12')
  await page.getByRole('button', { name: 'keep this table' }).click()
  await expect(page.getByRole('alert')).toContainText("'Qq'")
  await page.getByRole('radio', { name: /to one decimal/ }).click()

  await page.goto('/plan/epsom-salt')
  await page.getByText('worked by our school’s rules').click()
  for (const rule of ['atomic masses to one decimal', 'titres agree within 0.20 mL', 'to the even digit'])
    await expect(page.getByText(rule)).toBeVisible()
})
