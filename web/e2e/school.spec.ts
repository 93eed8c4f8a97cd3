import { expect, test, type Page } from '@playwright/test'
import { DESK, PHONE, signIn } from './people'

/** A new school: the first account, the first run, a group that works through the bench by keyboard alone. */
test.describe.configure({ mode: 'serial' })

const here = (process.env['KEEN_BEAKER'] ?? 'http://127.0.0.1:8080') + '/'
let code = ''

test('the first account is made on the machine itself, and a run is started', async ({ browser }) => {
  const context = await browser.newContext({ viewport: DESK, baseURL: here })
  const page = await context.newPage()
  await page.goto('/')
  await page.getByLabel('Your name').fill('R. Ashdown')
  const passphrase = page.getByLabel(/A passphrase/)
  await passphrase.fill('short')
  await page.getByRole('button', { name: 'Make the account' }).click()
  await expect(page.getByRole('alert')).toContainText('10 to 200 characters')
  await passphrase.fill('slate under warm rain')
  await page.getByRole('button', { name: 'Make the account' }).click()
  await expect(page.getByText('Nothing runs. Make a class')).toBeVisible()

  await page.getByRole('link', { name: /Epsom salt/ }).click()
  await page.getByLabel('class', { exact: true }).fill('11-Slate')
  await page.getByLabel(/groups, in bench order/).fill('Talc, Talc')
  await page.getByRole('button', { name: 'Start with 2 groups' }).click()
  await expect(page.getByRole('alert')).toContainText("Two groups are called 'Talc'")
  await page.getByLabel(/groups, in bench order/).fill('Talc, Zircon')
  await page.getByRole('button', { name: 'Start with 2 groups' }).click()
  const join = page.getByRole('region', { name: 'join code' })
  await expect(join.getByRole('img')).toHaveJSProperty('complete', true)
  code = (await join.locator('.text-value').textContent()) ?? ''
  expect(code).toMatch(/^[A-Z]+ \d\d$/)
})

test('a group works through the bench by keyboard alone', async ({ browser }) => {
  const context = await browser.newContext({ viewport: PHONE })
  const page = await context.newPage()
  await page.goto('/join')
  await write(page, 'the code on the board', code.toLowerCase())
  await page.keyboard.press('Enter')
  await expect(page.getByRole('button', { name: 'Talc' })).toBeVisible()
  await press(page, 'Talc')
  await press(page, 'We are Talc')

  // The number has the caret; Enter keeps it, Enter again goes on.
  await expect(page.getByRole('heading', { name: 'Weigh the carbonate' })).toBeVisible()
  await write(page, /mass of basic magnesium carbonate/, '3.04')
  await page.keyboard.press('Enter')
  await goOn(page)
  await expect(page.getByRole('heading', { name: 'Pipette the acid' })).toBeVisible()
  await write(page, /volume of sulfuric acid/, 'abc')
  await expect(page.getByText(/This is no number yet/)).toBeVisible()
  await page.keyboard.press('ControlOrMeta+a')
  await page.keyboard.type('25,00')
  await page.keyboard.press('Enter')
  await goOn(page)
  await page.getByRole('radio').first().focus()
  for (let i = 0; i < 3; i++) {
    await page.keyboard.press('Space')
    await page.keyboard.press('Tab')
  }
  await expect(page.getByRole('radio', { checked: true })).toHaveCount(3)
  await goOn(page)
  await write(page, /mass of the empty dish/, '47.91')
  await page.keyboard.press('Enter')
  await goOn(page)
  for (const step of [
    'Filter into the dish',
    'Evaporate on the water bath',
    'Leave it to crystallise',
    'Drain, wash, dry',
  ]) {
    await expect(page.getByRole('heading', { name: step })).toBeVisible()
    await goOn(page)
  }
  await write(page, /mass of the dish with dry crystals/, '51.73')
  await page.keyboard.press('Enter')
  await goOn(page)
  for (const [label, digits, unit] of [
    ['amount of sulfuric acid', '25.0', 'mmol'],
    ['theoretical yield of Epsom salt', '6.16', 'g'],
    ['percent yield', '62.0', '%'],
  ] as const) {
    await write(page, label, digits)
    await page.getByRole('radio', { name: unit, exact: true }).focus()
    await page.keyboard.press('Space')
    await press(page, 'Send')
    await expect(page.getByText(digits, { exact: true })).toBeVisible()
  }
  await goOn(page)
  await expect(page.getByText('Everything you entered has arrived.')).toBeVisible()
})

test('a closed run can be looked at and not entered', async ({ browser }) => {
  const context = await browser.newContext({ viewport: DESK, baseURL: here })
  const desk = await context.newPage()
  await signIn(desk, 'R. Ashdown', 'slate under warm rain')
  await desk.getByRole('navigation', { name: 'places' }).getByRole('link', { name: 'Board' }).click()
  await desk.getByRole('button', { name: 'close the run' }).click()
  await desk.getByRole('button', { name: 'close it' }).click()
  await expect(desk.getByRole('button', { name: 'open the run again' })).toBeVisible()

  const phone = await (await browser.newContext({ viewport: PHONE })).newPage()
  await phone.goto(`/join/${code.replace(' ', '-')}`)
  await phone.getByRole('button', { name: 'Zircon' }).click()
  // Nobody had come to this group: what is over is joined with the PIN from the board alone.
  await phone.getByRole('button', { name: 'We are Zircon' }).click()
  await expect(phone.getByRole('alert')).toContainText('which the board shows')
  await desk.getByRole('button', { name: 'show the join code' }).click()
  await desk.getByRole('button', { name: 'show the PINs' }).click()
  const pin = await desk
    .getByRole('listitem')
    .filter({ hasText: 'Zircon' })
    .locator('.font-mono')
    .textContent()
  await phone.getByLabel(/PIN/).fill(pin ?? '')
  await phone.getByRole('button', { name: 'We are Zircon' }).click()
  await expect(phone.getByText(/The run is closed/)).toBeVisible()
  await expect(phone.getByRole('button', { name: 'Keep' })).toHaveCount(0)
  await desk.getByRole('button', { name: 'sign out this device of Zircon' }).click()
  await expect(desk.getByText('its group has a new PIN')).toBeVisible()
})

/** Presses a button by keyboard. */
async function press(page: Page, name: string): Promise<void> {
  await page.getByRole('button', { name, exact: true }).focus()
  await page.keyboard.press('Enter')
}

/** On to the next step: the key has the focus once a step is complete. */
async function goOn(page: Page): Promise<void> {
  await expect(page.getByRole('button', { name: /^(Next step|Done)/ })).toBeFocused()
  await page.keyboard.press('Enter')
}

/** Types into the number that has the caret, and makes sure that it is the one meant. */
async function write(page: Page, label: string | RegExp, digits: string): Promise<void> {
  await expect(page.getByRole('textbox', { name: label })).toBeFocused()
  await page.keyboard.type(digits)
}
