import { expect, test } from '@playwright/test'
import { DESK, look, PHONE, signIn } from './people'

/** Two visits with a night between them, in which the server is off: each visit is a run of its own against its own server. */

const PASSPHRASE = 'slate under warm rain'

test('first visit: the crucible goes into the oven', async ({ browser }) => {
  const context = await browser.newContext({ viewport: DESK, baseURL: process.env['KEEN_BEAKER'] ?? '' })
  const desk = await context.newPage()
  await desk.goto('/')
  await desk.getByLabel('Your name').fill('R. Ashdown')
  await desk.getByLabel(/A passphrase/).fill(PASSPHRASE)
  await desk.getByRole('button', { name: 'Make the account' }).click()
  await desk.getByRole('link', { name: /Sulfate in an unknown salt/ }).click()
  await desk.getByLabel('class', { exact: true }).fill('12-Gneiss')
  await desk.getByLabel(/groups, in bench order/).fill('Aspen, Birch')
  await desk.getByLabel('assignments are given out').selectOption('in turn along the benches')
  await expect(desk.getByLabel('lesson 2 begins')).toHaveValue(/^2026-11-13T/)
  await desk.getByRole('button', { name: 'Start with 2 groups' }).click()
  const join = desk.getByRole('region', { name: 'join code' })
  const code = (await join.locator('.text-value').textContent()) ?? ''

  const phone = await (await browser.newContext({ viewport: PHONE, hasTouch: true })).newPage()
  await phone.goto(`/join/${code.replace(' ', '-')}`)
  await phone.getByRole('button', { name: /^Aspen/ }).click()
  await phone.getByRole('button', { name: 'We are Aspen' }).click()
  await expect(phone.getByText('unknown K3').first()).toBeVisible()
  await phone.goto('/bench/6')
  await phone.getByRole('button', { name: /^Start the .* wait/ }).click()
  await expect(phone.getByRole('region', { name: 'waiting' })).toContainText('Dry and weigh: since')
  await expect(phone.getByText(/The next lesson begins 13 Nov/)).toBeVisible()
  await expect(phone.getByText('all of it has arrived')).toBeVisible()
})

test('second visit: other hands find where it stands, and weigh', async ({ browser }) => {
  const desk = await (await browser.newContext({ viewport: DESK })).newPage()
  await signIn(desk, 'R. Ashdown', PASSPHRASE)
  await expect(desk.getByRole('region', { name: 'waiting' })).toContainText(
    /12-Gneiss Dry and weigh: Aspen, since Wednesday \d\d:\d\d\. Weigh and go on in this lesson\./,
  )
  await look(desk)
  await desk.getByRole('link', { name: 'Board', exact: true }).last().click()
  await desk.getByRole('button', { name: 'show the join code' }).click()
  await desk.getByRole('button', { name: 'show the PINs' }).click()
  const aspen = desk
    .getByRole('region', { name: 'join code' })
    .getByRole('listitem')
    .filter({ hasText: 'Aspen' })
  const pin = (await aspen.locator('.font-mono').textContent()) ?? ''
  const code = (await desk.locator('.text-value').textContent()) ?? ''

  const phone = await (await browser.newContext({ viewport: PHONE, hasTouch: true })).newPage()
  await phone.goto(`/join/${code.replace(' ', '-')}`)
  await phone.getByRole('button', { name: /^Aspen/ }).click()
  await phone.getByLabel(/PIN/).fill(pin)
  await phone.getByRole('button', { name: 'We are Aspen' }).click()
  // Whoever leaves the page before it has joined is nobody yet.
  await expect(phone.getByRole('navigation', { name: 'steps' })).toBeVisible()
  await phone.goto('/bench/6')
  await expect(phone.getByRole('region', { name: 'waiting' })).toContainText(/2 days\. It is ready/)
  await look(phone)
})
