import { expect, test, type Page } from '@playwright/test'
import type { Board, CheckView } from '../src/api'
import { group, instructor, keypad, look, PHONE } from './people'

/** Sums looked at by keys, ruled on, given back; what a group sees before and after, and at once where it may. */
test.describe.configure({ mode: 'serial' })

/** A call as the page makes it. */
async function call<T>(page: Page, method: string, path: string, body?: unknown): Promise<T> {
  return page.evaluate(
    async ([method, path, body]) => {
      const headers = { 'content-type': 'application/json', 'x-keen-beaker': '1' }
      const sent = { method, headers, ...(body !== null && { body: JSON.stringify(body) }) }
      const response = await fetch(`/api/v1${path}`, sent)
      const text = await response.text()
      if (!response.ok) throw new Error(`${path}: ${text}`)
      return (text === '' ? null : JSON.parse(text)) as T
    },
    [method, path, body ?? null] as const,
  )
}

/** A result with its stacks there: keys are heard. */
async function open(desk: Page, path: string): Promise<void> {
  await desk.goto(path)
  await expect(desk.getByRole('region', { name: 'stacks, wrong first' })).toBeVisible()
}

/** Ten groups with four answers each, eight of the forty wrong in eight ways. */
async function classOfTen(desk: Page): Promise<number> {
  const names = ['Agate', 'Beryl', 'Chert', 'Dacite', 'Emery', 'Flint', 'Gneiss', 'Halite', 'Iolite', 'Jade']
  const { id: run } = await call<{ id: number }>(desk, 'POST', '/runs', {
    practical: 'zinc-iodide',
    class: '12-Schist',
    groups: names.map((name) => ({ name })),
  })
  const board = await call<Board>(desk, 'GET', `/runs/${run}/board`)
  const readings = { m_zinc: '1.500', m_iodine: '2.000', m_flask: '48.000', m_flask_zinc: '48.985' }
  const weighed = { ...readings, m_dish: '38.000', m_dish_iodide: '40.515' }
  // By hand: 0.515 g of zinc, 7.877 mmol; 15.76 mmol of iodine atoms; 2.515 g of 2.515 g.
  const right = {
    m_zinc_used: '0.515',
    amount_ratio: '2.001',
    simplest_formula: 'ZnI2',
    percent_yield: '99.99',
  }
  const wrong: Partial<Record<keyof typeof right, string>>[] = [
    { m_zinc_used: '0.985' },
    { amount_ratio: '1.000' },
    { amount_ratio: '3.883' },
    { simplest_formula: 'ZnI' },
    { simplest_formula: 'Zn2I4' },
    { percent_yield: '125.8' },
    { percent_yield: '1611' },
    { m_zinc_used: '0.717' },
  ]
  let id = 0
  for (const [i, row] of board.rows.entries()) {
    const enter = (entry: unknown) => {
      id += 1
      const uuid = `00000000-0000-7000-8000-${String(id).padStart(12, '0')}`
      return call(desk, 'POST', `/runs/${run}/groups/${row.group}/entries`, { id: uuid, entry })
    }
    for (const [symbol, text] of Object.entries(weighed)) {
      await enter({ kind: 'reading', symbol, text, unit: 'g' })
    }
    for (const [result, text] of Object.entries({ ...right, ...wrong[i] })) {
      const unit = { m_zinc_used: 'g', amount_ratio: '1', simplest_formula: '', percent_yield: '%' }[result]
      await enter({ kind: 'answer', result, text, unit })
    }
  }
  return run
}

test('forty answers of ten groups are looked at in at most forty key presses', async ({ browser }) => {
  const desk = await instructor(browser)
  const run = await classOfTen(desk)
  await open(desk, `/check/${run}/m_zinc_used`)
  await expect(desk.getByText('of 40 looked at')).toBeVisible()
  let presses = 0
  const looked = async () =>
    Number(await desk.getByText('of 40 looked at').locator('span').first().textContent())
  while ((await looked()) < 40) {
    const before = await looked()
    await desk.keyboard.press('a')
    presses += 1
    await expect.poll(looked).toBeGreaterThan(before)
    expect(presses).toBeLessThanOrEqual(40)
  }
  // The last press is taken back as a whole, once; and made again.
  await desk.keyboard.press('u')
  await expect.poll(looked).toBeLessThan(40)
  await desk.keyboard.press('u')
  await desk.keyboard.press('a')
  await expect.poll(looked).toBe(40)
  const view = await call<CheckView>(desk, 'GET', `/runs/${run}/check`)
  const wrong = view.sheets.flatMap((s) => Object.values(s.verdicts)).filter((v) => v.value.kind !== 'right')
  expect(wrong.filter((v) => v.value.kind !== 'carried-forward')).toHaveLength(8)
  expect(presses).toBeLessThanOrEqual(20)
  // The next stack, evidence, and what another slip would have made, without a hand on the mouse.
  await open(desk, `/check/${run}/percent_yield`)
  await desk.keyboard.press('j')
  await desk.keyboard.press('e')
  await expect(desk.getByText(/% of the evidence/).first()).toBeVisible()
  await expect(desk.getByText('what the bench may have done to it')).toBeVisible()
  await look(desk)
})

test('a ruling says why, and a group sees what was given back and nothing before', async ({ browser }) => {
  const desk = await instructor(browser)
  const phone = await group(browser, 'Calcite', '735050')
  await phone.goto('/bench/10')
  await expect(phone.getByRole('group', { name: /given back/ })).toHaveCount(0)

  await open(desk, '/check/1/m_theory')
  await expect(desk.getByText('left out the water').first()).toBeVisible()
  await expect(desk.getByText(/the molar mass of the anhydrous substance was used/)).toBeVisible()
  await desk.keyboard.press('o')
  await expect(desk.getByRole('button', { name: 'Save' })).toBeDisabled()
  await desk.keyboard.type('The bag said anhydrous: settled with me.')
  await look(desk)
  await desk.keyboard.press('Enter')
  // It goes on to what is next.
  await expect(desk.getByRole('button', { name: 'Save' })).toHaveCount(0)
  await desk.goto('/check/1/marks')
  await expect(desk.getByRole('row', { name: /Calcite/ })).toContainText('10')
  await look(desk)

  await open(desk, '/check/1/m_theory')
  await desk.keyboard.press('r')
  await desk.getByLabel('give back to').selectOption('Calcite')
  await desk.getByRole('button', { name: 'Give back', exact: true }).click()
  await expect(desk.getByText('Given back: 1 sheet.')).toBeVisible()
  const told = phone.getByRole('group', { name: 'given back: theoretical yield of Epsom salt' })
  await expect(told).toContainText('is right')
  await expect(told).toContainText('The bag said anhydrous')
  await expect(phone.getByText('6.16')).toHaveCount(0)

  await desk.getByLabel('with the recomputed values').check()
  await desk.getByRole('button', { name: 'Give back', exact: true }).click()
  await expect(told).toContainText('By your readings it is 6.16 g, give or take 0.029 g.')
  await look(phone, 'bench-back')

  await desk.goto('/check/1/class')
  await expect(desk.getByRole('region', { name: 'percent yield' })).toContainText('robust mean')
  await look(desk)
})

test('where the practical says so a hint comes at once, and never the value', async ({ browser }) => {
  const desk = await instructor(browser)
  const { code } = await call<{ code: string }>(desk, 'POST', '/runs', {
    practical: 'gypsum-water',
    class: '12-Schist',
    groups: [{ name: 'Topaz' }],
  })
  const context = await browser.newContext({ viewport: PHONE, hasTouch: true })
  const phone = await context.newPage()
  await phone.goto(`/join/${code.replace(' ', '-')}`)
  await phone.getByRole('button', { name: /^Topaz/ }).click()
  await phone.getByRole('button', { name: 'We are Topaz' }).click()
  await expect(phone.getByRole('navigation', { name: 'steps' })).toBeVisible()
  const view = await call<{ group_id: number; steps: { answers?: string[] }[] }>(phone, 'GET', '/bench')
  const step = view.steps.findIndex((s) => s.answers?.includes('m_water')) + 1
  const readings = {
    m_crucible: '31.250',
    m_filled: '33.262',
    'm_heated[1]': '32.842',
    'm_heated[2]': '32.841',
  }
  let id = 900
  for (const [symbol, text] of Object.entries(readings)) {
    id += 1
    await call(phone, 'POST', '/bench/entries', {
      id: `00000000-0000-7000-8000-${String(id).padStart(12, '0')}`,
      group: view.group_id,
      entry: { kind: 'reading', symbol, text, unit: 'g' },
      taken_at: 1_794_481_440_000,
    })
  }
  await phone.goto(`/bench/${step}`)
  const answer = async (digits: string) => {
    await keypad(phone, digits)
    await phone.getByRole('radio', { name: 'g', exact: true }).click()
    await phone.getByRole('button', { name: 'Send', exact: true }).click()
  }
  await expect(phone.getByText('3 tries left')).toBeVisible()
  await answer('1.591')
  await expect(phone.getByRole('status').filter({ hasText: 'not yet' })).toContainText(
    'what was lost, or what is left?',
  )
  await expect(phone.getByText('0.421')).toHaveCount(0)
  await look(phone)
  await phone.getByRole('button', { name: 'Answer again' }).first().click()
  await answer('0.421')
  await expect(phone.getByRole('status').filter({ hasText: 'mass of water driven off' })).toContainText(
    'right',
  )
})

test('answers are typed in from paper, a reason is read, and both are given back with marks at the bench', async ({
  browser,
}) => {
  const desk = await instructor(browser)
  const { id: run, code } = await call<{ id: number; code: string }>(desk, 'POST', '/runs', {
    practical: 'strontium-sulfate',
    class: '12-Schist',
    groups: [{ name: 'Opal' }],
  })
  const board = await call<Board>(desk, 'GET', `/runs/${run}/board`)
  const weighed = { m_strontium: '1.482', V_sulfate: '20.00', m_paper: '0.624', m_paper_product: '1.29' }
  let id = 950
  for (const [symbol, text] of Object.entries(weighed)) {
    id += 1
    await call(desk, 'POST', `/runs/${run}/groups/${board.rows[0]?.group}/entries`, {
      id: `00000000-0000-7000-8000-${String(id).padStart(12, '0')}`,
      entry: { kind: 'reading', symbol, text, unit: symbol.startsWith('V') ? 'mL' : 'g' },
    })
  }
  // On paper: 5.558 mmol, the right theory in mg; a cell that is no number stays for mending.
  await desk.goto(`/check/${run}/paper`)
  const cell = (of: string) => desk.getByRole('textbox', { name: `${of}, Opal` })
  await cell('amount of strontium').fill('5.558')
  await cell('amount of strontium').press('Enter')
  await expect(desk.getByRole('img', { name: 'kept', exact: true })).toBeVisible()
  await cell('theoretical yield of strontium sulfate').fill('seven')
  await cell('theoretical yield of strontium sulfate').press('Tab')
  await expect(desk.getByRole('status')).toContainText('One cell was not kept')
  await expect(cell('theoretical yield of strontium sulfate')).toHaveValue('seven')
  await look(desk)
  await cell('theoretical yield of strontium sulfate').fill('735 mg')
  await cell('theoretical yield of strontium sulfate').press('Enter')
  await expect(desk.getByRole('status')).toHaveCount(0)
  // Two cells at once, as a spreadsheet copies them.
  await cell('amount of sulfate').evaluate((input) => {
    const data = new DataTransfer()
    data.setData('text', '4.00\tsod')
    input.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }))
  })
  await expect(desk.getByText(/of 4 looked at/)).toBeVisible()

  const context = await browser.newContext({ viewport: PHONE, hasTouch: true })
  const phone = await context.newPage()
  await phone.goto(`/join/${code.replace(' ', '-')}`)
  await phone.getByRole('button', { name: /^Opal/ }).click()
  await phone.getByRole('button', { name: 'We are Opal' }).click()
  await expect(phone.getByRole('navigation', { name: 'steps' })).toBeVisible()
  const view = await call<{ steps: { answers?: string[] }[] }>(phone, 'GET', '/bench')
  await phone.goto(`/bench/${view.steps.findIndex((s) => s.answers?.includes('filtrate')) + 1}`)
  await phone.getByRole('button', { name: /filtrate/ }).click()
  await phone
    .getByRole('textbox', { name: /filtrate/ })
    .fill('It clouded with strontium chloride: sulfate was left.')
  await look(phone)
  await phone.getByRole('button', { name: 'Send', exact: true }).click()
  await expect(phone.getByText('It clouded with strontium chloride')).toBeVisible()

  await open(desk, `/check/${run}/filtrate`)
  await expect(desk.getByText('A good answer says:')).toBeVisible()
  await look(desk)
  await desk.keyboard.press('a')
  await expect(desk.getByText('1 of 5 looked at')).toBeVisible()
  await desk.goto(`/check/${run}/marks`)
  // 1.29 where the balance shows 1.290: three of four readings, 1.5 of 2 marks.
  await expect(desk.getByText('3 of 4 readings with all their decimals')).toBeVisible()
  await open(desk, `/check/${run}/filtrate`)
  await desk.keyboard.press('r')
  await desk.getByLabel('with the recomputed values').check()
  await desk.getByRole('button', { name: 'Give back', exact: true }).click()
  const told = phone.getByRole('group', { name: /given back: how did the filtrate/ })
  await expect(told).toContainText('right · 2 of 2 marks')
  await expect(told).toContainText('A good answer says: A few drops of sulfate')
  await expect(phone.getByRole('list', { name: 'marks for the work at the bench' })).toContainText('1.5 of 2')
  await look(phone)
})
