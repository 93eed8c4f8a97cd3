import { expect, test, type Page } from '@playwright/test'
import { instructor, PHONE } from './people'

/** Designing a practical: adapting one, writing one from nothing, breaking and mending its text, printing it. */

/** Opens a line, changes one of its fields, and waits until it is kept. */
async function change(page: Page, line: string, field: string | RegExp, value: string): Promise<void> {
  const toggle = page
    .getByRole('button', { name: `change ${line}`, exact: true })
    .or(page.getByRole('button', { name: `close ${line}`, exact: true }))
  if ((await toggle.textContent()) === 'change') await toggle.click()
  const opened = page.locator('li', {
    has: page.getByRole('button', { name: `close ${line}`, exact: true }),
  })
  const input = opened.getByLabel(field, { exact: true }).first()
  await input.fill(value)
  await input.press('Tab')
  await kept(page)
}

/** The last change has arrived: the head says when it was kept, and no longer that it is being kept. */
async function kept(page: Page): Promise<void> {
  await expect(page.getByText('keeping it …')).toHaveCount(0)
  await expect(page.getByText(/^draft, kept/)).toBeVisible()
}

const margin = (page: Page) => page.getByRole('complementary', { name: 'what follows from the plan' })

test('a practical is adapted: what follows changes with every amount', async ({ browser }) => {
  const page = await instructor(browser)
  await page.goto('/plan/epsom-salt')
  await expect(margin(page)).toContainText('2.43 g of basic magnesium carbonate would be just enough')
  await expect(margin(page)).toContainText('nothing contradicts itself')

  await change(page, 'basic magnesium carbonate', 'planned', '2.5 ± 0.1 g')
  await expect(margin(page)).toContainText('as planned 3 % over, from -1 to 7 % over its band')
  await expect(margin(page)).toContainText('2 things do not add up')
  await expect(margin(page)).toContainText('basic magnesium carbonate: 2.5 g in the ledger, 3.0 g in step 1.')
  // The reading of it expects the new amount as well: one fact, said once.
  await expect(page.getByText('2.4 to 2.6', { exact: true })).toBeVisible()

  await page.getByRole('button', { name: 'undo' }).click()
  await expect(margin(page)).toContainText('nothing contradicts itself')
  await page.getByRole('heading', { level: 1 }).click()
  await page.keyboard.press('ControlOrMeta+Shift+Z')
  await expect(margin(page)).toContainText('2 things do not add up')
  await page.keyboard.press('ControlOrMeta+Z')
  await expect(margin(page)).toContainText('nothing contradicts itself')

  await change(page, 'basic magnesium carbonate', 'planned', '2.8 ± 0.1 g')
  await change(page, 'sulfuric acid', 'planned', '25.0 furlong')
  await expect(page.getByText(/'furlong' is no unit known here/).first()).toBeVisible()
  await expect(page.getByRole('button', { name: /^Publish/ })).toBeDisabled()
  await change(page, 'sulfuric acid', 'planned', '25.0 mL')
  await page.getByRole('button', { name: 'Publish as version 2' }).click()
  await expect(page.getByText('version 2', { exact: true })).toBeVisible()
  await page.getByRole('link', { name: 'history' }).click()
  const changed = page.getByRole('row', { name: /materials › carbonate › planned/ })
  await expect(changed).toContainText('3.0 ± 0.1 g')
  await expect(changed).toContainText('2.8 ± 0.1 g')
})

test('a practical is written from nothing, by form', async ({ browser }) => {
  const page = await instructor(browser)
  await page.goto('/shelf')
  await page.getByLabel('title').fill('Silver chloride, weighed')
  await page.getByRole('button', { name: 'Begin it' }).click()
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Silver chloride, weighed')

  await page.getByRole('button', { name: 'add a reaction' }).click()
  await change(page, 'reaction', 'equation', 'AgNO3 + CaCl2 -> AgCl + Ca(NO3)2')
  await expect(page.getByText(/not balanced/).first()).toBeVisible()
  await page.getByRole('button', { name: 'balance it' }).click()
  await expect(page.getByText(/balanced: .*Ag 2 on both sides/)).toBeVisible()

  await page.getByRole('button', { name: 'add a material' }).click()
  await change(page, 'new substance', 'formula', 'AgNO3')
  await change(page, 'new substance', 'planned', '1.70 ± 0.05 g')
  await change(page, 'new substance', 'substance', 'silver nitrate')
  await page.getByRole('button', { name: 'add a material' }).click()
  await change(page, 'new substance', 'formula', 'AgCl')
  const chloride = page.locator('li', { has: page.getByRole('button', { name: 'close new substance' }) })
  await chloride.getByLabel('role', { exact: true }).selectOption('product')
  await kept(page)
  await change(page, 'new substance', 'substance', 'silver chloride')

  await page.getByRole('button', { name: 'add a reading' }).click()
  await change(page, 'new reading', 'normal range, from, to', '1.6, 1.8')
  await change(page, 'new reading', 'expected', '1.70')
  const told = page.getByRole('status').filter({ hasText: 'before it can be published' })
  await expect(told).toContainText("reading 'm_new': no step records it")

  await page.getByRole('button', { name: 'add a result' }).click()
  await change(page, 'new result', 'expression', 'm_new / M(substance)')
  await expect(
    page.getByText('this gives an amount of substance, which cannot be written in 1').first(),
  ).toBeVisible()
  await change(page, 'new result', 'unit', 'mmol')
  await expect(page.getByText('10.0', { exact: true }).first()).toBeVisible()

  await page.getByRole('button', { name: 'add a step' }).click()
  await page.getByRole('button', { name: 'change New step' }).click()
  await page.getByRole('group', { name: 'readings taken' }).getByRole('checkbox', { name: 'm_new' }).check()
  await kept(page)
  await expect(told).toHaveCount(0)
  await page.getByRole('button', { name: 'Publish as version 1' }).click()
  await expect(page.getByText('version 1', { exact: true })).toBeVisible()
  await page.getByRole('link', { name: 'as text' }).click()
  await expect(page.getByLabel('the practical as text')).toHaveValue(
    /equation = "2 AgNO3 \+ CaCl2 -> 2 AgCl \+ Ca\(NO3\)2"/,
  )
})

test('a material comes from the Handbook, confirmed by its formula', async ({ browser }) => {
  const page = await instructor(browser)
  await page.goto('/plan/zinc-iodide')
  await page.getByLabel('add from the Handbook').fill('sulphuric acid')
  await expect(page.getByText('as “sulfuric acid”')).toBeVisible()
  await page.getByRole('button', { name: /add 5 to 15 % w\/w/ }).click()
  await kept(page)
  const line = page.locator('li', { has: page.getByRole('button', { name: 'change sulfuric acid' }) })
  await expect(line).toContainText('H2SO4')
  await line.getByText('3 hazards').click()
  await expect(line).toContainText('H315 Causes skin irritation.')
  await page.getByRole('button', { name: 'undo' }).click()
  await expect(line).toHaveCount(0)
})

test('its text is broken and mended, and nothing typed is lost', async ({ browser }) => {
  const page = await instructor(browser)
  await page.goto('/plan/gypsum-water/text')
  const area = page.getByLabel('the practical as text')
  await expect(area).toHaveValue(/id = "gypsum-water"/)
  const sound = await area.inputValue()
  await area.fill(
    sound.replace('visits = 1', 'visits = = 1').replace('Water of', '<script>alert(1)</script> Water of'),
  )
  const wrong = page.getByRole('complementary', { name: 'what follows from the text' })
  await expect(wrong).toContainText('line 8, character')
  await page.getByRole('link', { name: 'as form' }).click()
  await expect(page.getByText(/The text cannot be read as a whole/)).toBeVisible()
  await page.getByRole('button', { name: 'change title and kind' }).click()
  await expect(page.getByLabel('title', { exact: true })).not.toBeEditable()

  // Gone and come back: the broken text is still there, where it was left.
  await page.goto('/shelf')
  const drafts = page.getByRole('region', { name: 'in the making' })
  await expect(drafts).toContainText('1 error')
  await page.goto('/plan/gypsum-water/text')
  await expect(area).toHaveValue(/visits = = 1/)
  await area.fill((await area.inputValue()).replace('visits = = 1', 'visits = 1'))
  await expect(wrong).toContainText('Nothing: it can be published.')
  await page.getByRole('link', { name: 'as form' }).click()
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(
    '<script>alert(1)</script> Water of crystallisation in gypsum',
  )

  // A circle in the sheet leads from the form to its line.
  await page
    .getByLabel(/one definition a line/)
    .fill('a = b + m_gypsum\nb = a * 2\nm_residue = smallest(m_residue_each)')
  await page.getByLabel(/one definition a line/).press('Tab')
  await expect(page.getByRole('status').filter({ hasText: 'these need each other' })).toBeVisible()
  await page.getByRole('button', { name: 'undo' }).click()
  await expect(page.getByRole('status').filter({ hasText: 'these need each other' })).toHaveCount(0)
})

test('what is no practical is refused in words', async ({ browser }) => {
  const page = await instructor(browser)
  await page.goto('/shelf')
  const file = page.getByLabel(/or from a file/)
  await file.setInputFiles({
    name: 'huge.practical.toml',
    mimeType: 'text/plain',
    buffer: Buffer.alloc(10_000_000, 'x'),
  })
  await expect(page.getByRole('alert')).toContainText('has 10,000,000 bytes')
  await file.setInputFiles({
    name: 'torn.practical.toml',
    mimeType: 'text/plain',
    buffer: Buffer.from('id = "torn"\n= nonsense'),
  })
  await expect(page.getByText(/never one that a form can show/)).toBeVisible()
  await expect(page.getByRole('status').first()).toContainText('line 2, character 1')
})

test('sheets are printed with and without answers', async ({ browser }) => {
  const page = await instructor(browser)
  await page.goto('/plan/strontium-sulfate/student')
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible()
  await page.emulateMedia({ media: 'print' })
  await expect(page.getByRole('navigation', { name: 'places' })).toBeHidden()
  await expect(page.getByText('0.735', { exact: true })).toHaveCount(0)
  await expect(page.getByText('☒')).toHaveCount(0)
  await page.emulateMedia({ media: 'screen' })
  await page.getByLabel('with answers').check()
  await expect(page.getByText('0.735', { exact: true }).first()).toBeVisible()
  await expect(page.getByText('☒')).toHaveCount(2)
  await page.getByRole('link', { name: 'risk sheet' }).click()
  await expect(page.getByText('it does not say that anything is safe', { exact: false })).toBeVisible()
  await expect(
    page.getByText('Nothing with flammable solvent on it goes into the oven.', { exact: false }),
  ).toBeVisible()
})

test('a titration of the library is run until two titres agree, and then no further one is asked for', async ({
  browser,
}) => {
  const desk = await instructor(browser)
  await desk.goto('/plan/vinegar')
  await desk.getByLabel('class', { exact: true }).fill('11-Schist')
  await desk.getByRole('button', { name: /^Start with/ }).click()
  const code = await desk.getByRole('region', { name: 'join code' }).locator('.text-value').textContent()
  const page = await (await browser.newContext({ viewport: PHONE })).newPage()
  await page.goto(`/join/${(code ?? '').replace(' ', '-')}`)
  await page.getByRole('button', { name: 'Beryl' }).click()
  await page.getByRole('button', { name: 'We are Beryl' }).click()
  await expect(page.getByRole('heading', { name: 'Dilute the vinegar' })).toBeVisible()
  await page.goto('/bench/3')
  await page.getByRole('radio', { name: 'first lasting pink' }).click()
  const read = async (label: string, digits: string) => {
    await page.getByRole('textbox', { name: label, exact: false }).fill(digits)
    await page.keyboard.press('Enter')
  }
  const ends = ['21.60', '21.15', '21.05']
  const said = ['', 'One more: two must agree within 0.10 mL.', 'Titres 2 and 3 agree within 0.10 mL']
  for (const [i, end] of ends.entries()) {
    await read(`initial burette reading, trial ${i + 1}`, '0.10')
    await read(`final burette reading, trial ${i + 1}`, end)
    if (said[i] !== '')
      await expect(page.getByRole('status').filter({ hasText: said[i] ?? '' })).toBeVisible()
  }
  // The fourth is not asked for.
  await expect(page.getByRole('textbox', { name: /trial 4/ })).toHaveCount(0)
  await expect(page.getByRole('button', { name: 'Next step' })).toBeVisible()
})
