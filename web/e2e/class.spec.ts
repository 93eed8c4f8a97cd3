import { expect, test } from '@playwright/test'
import type { Board } from '../src/api'
import { group, instructor, keypad } from './people'

/** One class at work: what happens at a bench is on the board at once, and judged on Check. */
test.describe.configure({ mode: 'serial' })

test('an entry at the bench appears on the board without a reload, and a correction keeps the old value', async ({
  browser,
}) => {
  const desk = await instructor(browser)
  await desk.goto('/board/1')
  const cell = (text: string) =>
    desk.getByRole('button', { name: `Galena, mass of the dish with dry crystals: ${text} g` })
  await expect(desk.getByText('· live')).toBeVisible()
  await expect(desk.getByRole('button', { name: /^Galena, mass of the dish with dry crystals/ })).toHaveCount(
    0,
  )

  const galena = await group(browser, 'Galena', '553943')
  await galena.goto('/bench/9')
  await keypad(galena, '5,31')
  await expect(galena.getByText('Expected between 43 and 67')).toBeVisible()
  // Marked, not blocked.
  await galena.getByRole('button', { name: 'Keep' }).click()
  await expect(galena.getByText(/less than the mass of the empty dish/)).toBeVisible()
  await expect(cell('5,31')).toBeVisible()

  await galena.getByRole('button', { name: 'Correct it' }).click()
  // At once: a slip of the finger, and nobody is asked why.
  await keypad(galena, '53.11')
  await galena.getByRole('button', { name: 'Keep' }).click()
  await expect(galena.locator('s')).toHaveText('5,31')

  await expect(cell('53.11')).toBeVisible()
  // 3.03 g of 25.00 mmol × 246.466 g/mol, by hand.
  const percent = desk.getByRole('button', { name: 'Galena, percent yield: 49.2 %' })
  await expect(percent).toBeVisible()
  await cell('53.11').click()
  const margin = desk.getByRole('complementary', { name: 'margin' })
  await expect(margin.locator('s')).toHaveText('5,31')

  // A reading of two days ago is corrected with a reason, by one tap.
  await galena.goto('/bench/4')
  await galena.getByRole('button', { name: 'Correct it' }).click()
  await keypad(galena, '50.80')
  await expect(galena.getByRole('button', { name: 'Keep' })).toBeDisabled()
  await galena.getByRole('button', { name: 'mistyped' }).click()
  await galena.getByRole('button', { name: 'Keep' }).click()
  await desk.getByRole('button', { name: 'Galena, mass of the empty dish: 50.80 g' }).click()
  await expect(margin.getByText('mistyped')).toBeVisible()
  await expect(margin.locator('s')).toHaveText('50.08')
})

test('what is entered without a network arrives once, in order, and nothing typed is lost', async ({
  browser,
}) => {
  const desk = await instructor(browser)
  await desk.goto('/board/1')
  const haematite = await group(browser, 'Haematite', '127612')
  await haematite.goto('/bench/10')
  // Digits that were typed and not yet sent are there after a reload.
  await keypad(haematite, '65')
  await haematite.reload()
  await expect(haematite.getByLabel('percent yield')).toHaveValue('65')

  await haematite.context().setOffline(true)
  await keypad(haematite, '.2')
  await haematite.getByRole('radio', { name: '%' }).click()
  await haematite.getByRole('button', { name: 'Send' }).click()
  await expect(haematite.getByText(/kept on this device; judged when connected/)).toBeVisible()
  await haematite.getByRole('link', { name: /step 3/ }).click()
  await haematite.getByRole('radio', { name: 'stays blue' }).click()
  await expect(haematite.getByText(/^2 held on this device/)).toBeVisible()
  await expect(desk.getByRole('button', { name: /Haematite, percent yield/ })).toBeVisible()

  await haematite.context().setOffline(false)
  await expect(haematite.getByText('all of it has arrived')).toBeVisible()
  await haematite.getByRole('link', { name: 'all that you entered' }).click()
  await expect(haematite.getByText('Everything you entered has arrived.')).toBeVisible()

  const csv = await desk.evaluate(async () => (await fetch('/api/v1/runs/1/export.csv')).text())
  const row = csv.split('\r\n').find((line) => line.startsWith('Haematite')) ?? ''
  expect(row).toContain('65.2,%,right,right,right')
  // Once: nothing was superseded by a second copy of itself.
  const answers = await desk.evaluate(async () => {
    const board = (await (await fetch('/api/v1/runs/1/board')).json()) as Board
    return board.rows.find((r) => r.name === 'Haematite')?.answers
  })
  expect(answers?.['percent_yield']?.struck).toEqual([])
})

test('sums are judged: wrong first, carried forward, digits apart, worked from their own readings', async ({
  browser,
}) => {
  const desk = await instructor(browser)
  await desk.goto('/check/1/percent_yield')
  const stacks = desk.getByRole('region', { name: 'stacks, wrong first' }).getByRole('button')
  await expect(stacks.first()).toContainText('Feldspar')
  await expect(stacks.first()).toContainText('×13.7')
  const answer = desk.getByRole('region', { name: "Feldspar's answer" })
  await expect(answer.getByText('62.2')).not.toHaveCount(0)

  await stacks.filter({ hasText: 'Olivine' }).click()
  await expect(desk.getByText('too many: 5 where the readings give 3')).toBeVisible()
  await stacks.filter({ hasText: 'Calcite' }).click()
  await expect(
    desk.getByText(/right, using their earlier theoretical yield of Epsom salt, 3.01/),
  ).toBeVisible()
  // The worked solution leads from a number to its reading.
  await desk.getByRole('button', { name: /^all \d+ steps/ }).click()
  const worked = desk.getByRole('table', { name: /worked solution/ })
  await worked.getByRole('button', { name: '51.36' }).first().click()
  await expect(desk.getByText(/mass of the empty dish:/)).toBeVisible()
  // By keys alone: the first result, its first stack.
  await desk.keyboard.press('2')
  await expect(desk.getByRole('heading', { level: 1 })).toHaveText(/theoretical yield/i)
  await expect(desk.getByRole('region', { name: "Calcite's answer" })).toBeVisible()
})
