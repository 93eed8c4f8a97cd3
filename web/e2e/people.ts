import { AxeBuilder } from '@axe-core/playwright'
import { expect, type Browser, type Page } from '@playwright/test'

/** The people of the demo school, each in a browser of their own. */

export const PHONE = { width: 390, height: 844 }
export const DESK = { width: 1280, height: 800 }

/** Through the door to the desk. */
export async function signIn(page: Page, name: string, passphrase: string): Promise<void> {
  await page.goto('/sign-in')
  await page.getByLabel('Your name').fill(name)
  await page.getByLabel('Your passphrase').fill(passphrase)
  await page.getByRole('button', { name: 'Open the desk' }).click()
}

/** The instructor, signed in. */
export async function instructor(browser: Browser, scheme: 'light' | 'dark' = 'light'): Promise<Page> {
  const context = await browser.newContext({ viewport: DESK, colorScheme: scheme })
  const page = await context.newPage()
  await signIn(page, 'R. Ashdown', 'slate under warm rain')
  await expect(page.getByRole('heading', { level: 1 })).toContainText(/under way|began today/)
  return page
}

/** The technician of the demo school, signed in. */
export async function technician(browser: Browser): Promise<Page> {
  const context = await browser.newContext({ viewport: DESK })
  const page = await context.newPage()
  await signIn(page, 'T. Hollow', 'kettles on a long shelf')
  await expect(page.getByRole('heading', { level: 1, name: 'To prepare' })).toBeVisible()
  return page
}

/** A second device of a group that is at work already. */
export async function group(browser: Browser, name: string, pin: string, code = 'tarn 47'): Promise<Page> {
  const context = await browser.newContext({ viewport: PHONE, hasTouch: true })
  const page = await context.newPage()
  await page.goto('/join')
  await page.getByLabel('the code on the board').fill(code)
  await page.getByRole('button', { name: 'Find it' }).click()
  await page.getByRole('button', { name: new RegExp(`^${name}`) }).click()
  await page.getByLabel(/PIN/).fill(pin)
  await page.getByRole('button', { name: `We are ${name}` }).click()
  await expect(page.getByRole('navigation', { name: 'steps' })).toBeVisible()
  return page
}

/** Presses keys of the bench's own keypad, one by one. */
export async function keypad(page: Page, digits: string): Promise<void> {
  for (const digit of digits) {
    const name = digit === '.' ? 'point' : digit === ',' ? 'comma' : digit
    await page.getByRole('button', { name, exact: true }).click()
  }
}

const pictures = process.env['KEEN_BEAKER_PICTURES']

/** Looked at by axe; kept as a picture where it has a name and KEEN_BEAKER_PICTURES says where. */
export async function look(page: Page, name?: string): Promise<void> {
  await page.evaluate(() => Promise.all(document.getAnimations().map((a) => a.finished)))
  const found = await new AxeBuilder({ page })
    .setLegacyMode(true)
    .withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'])
    .analyze()
  expect(found.violations.map((v) => `${v.id}: ${v.nodes.map((n) => n.html).join(' ')}`)).toEqual([])
  if (pictures !== undefined && name !== undefined) await page.screenshot({ path: `${pictures}/${name}.png` })
}
