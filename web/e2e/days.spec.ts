import { expect, test, type Page } from '@playwright/test'
import { readFileSync } from 'node:fs'
import { DESK, group, instructor, keypad, look, PHONE, signIn } from './people'

/** A class over several days and in several hands: late groups, messages, a pause, an instructor's hand, photos, names. */
test.describe.configure({ mode: 'serial' })

const here = process.env['KEEN_BEAKER'] ?? 'http://127.0.0.1:8080'

test('a group that comes late has a bench, and somebody who was absent is seated', async ({ browser }) => {
  const desk = await instructor(browser)
  await desk.goto('/board/1/people')
  await desk.getByLabel('name', { exact: true }).fill('Talc')
  await desk.getByRole('button', { name: 'Put it at the end' }).click()
  await desk.getByLabel('Ezra Tor is at').selectOption('Talc')
  await expect(desk.getByText('from lesson 2 on')).toBeVisible()

  const context = await browser.newContext({ viewport: PHONE, hasTouch: true })
  const phone = await context.newPage()
  await phone.goto('/join/TARN-47')
  await phone.getByRole('button', { name: /^Talc/ }).click()
  await phone.getByRole('button', { name: 'We are Talc' }).click()
  await expect(phone.getByRole('heading', { name: 'Weigh the carbonate' })).toBeVisible()
  await phone.getByLabel('writing').selectOption('Ezra Tor')
  await keypad(phone, '3.05')
  await phone.getByRole('button', { name: 'Keep' }).click()
  await expect(phone.getByText('all of it has arrived')).toBeVisible()

  await desk.goto('/board/1')
  await desk.getByRole('link', { name: 'Talc', exact: true }).click()
  const timeline = desk.getByRole('region', { name: 'log' })
  await expect(timeline.getByRole('listitem').first()).toContainText('3.05 g Ezra Tor')

  // The device is handed on: it belongs to nobody until it joins again, and then needs the PIN.
  await phone.goto('/bench/sheet')
  await phone.getByRole('button', { name: 'Hand this device on' }).click()
  await phone.getByRole('button', { name: 'Leave Talc' }).click()
  await phone.getByRole('button', { name: /^Talc/ }).click()
  await expect(phone.getByLabel(/PIN/)).toBeVisible()
})

test('a message stands on the device until it is read; a pause keeps entries until the class goes on', async ({
  browser,
}) => {
  const desk = await instructor(browser)
  await desk.goto('/board/1')
  const galena = await group(browser, 'Galena', '553943')
  await galena.goto('/bench/9')
  await desk.keyboard.press('m')
  await desk.getByLabel(/to all groups/).fill('Balance 2 is free.')
  await desk.getByRole('button', { name: 'Tell all', exact: true }).click()
  const message = galena.getByRole('alert', { name: 'message' })
  await expect(message).toContainText('Balance 2 is free.')
  await look(galena)
  await message.getByRole('button', { name: 'We have read it' }).click()
  await expect(message).toHaveCount(0)
  await desk.goto('/board/1')
  await desk.getByRole('link', { name: 'Galena', exact: true }).click()
  await expect(desk.getByRole('region', { name: 'messages' })).toContainText(', to all, read')

  await desk.goto('/board/1')
  await desk.getByRole('button', { name: 'pause' }).click()
  await expect(galena.getByText('Listen, please.')).toBeVisible()
  await keypad(galena, '53.11')
  await galena.getByRole('button', { name: 'Keep' }).click()
  await expect(galena.getByText(/^1 held on this device/)).toBeVisible()
  await desk.getByRole('button', { name: 'go on' }).click()
  await expect(galena.getByText('all of it has arrived')).toBeVisible()
  await expect(
    desk.getByRole('button', { name: 'Galena, mass of the dish with dry crystals: 53.11 g' }),
  ).toBeVisible()
})

test('an instructor mends a reading and takes one out; the group sees what was done and why, a colleague too', async ({
  browser,
}) => {
  const desk = await instructor(browser)
  const galena = await group(browser, 'Galena', '553943')
  await galena.goto('/bench/9')
  await desk.goto('/board/1')
  await desk.getByRole('link', { name: 'Galena', exact: true }).click()
  await desk.getByRole('button', { name: 'edit mass of the dish with dry crystals' }).click()
  const form = desk.getByRole('form', { name: 'edit mass of the dish with dry crystals' })
  await form.getByLabel(/value/).fill('53.41')
  await expect(form.getByRole('button', { name: 'Correct it' })).toBeDisabled()
  await form.getByRole('button', { name: 'misread' }).click()
  await form.getByRole('button', { name: 'Correct it' }).click()
  await expect(galena.getByText('Entered by your instructor: misread.')).toBeVisible()
  await expect(galena.locator('s')).toHaveText('53.11')

  // The colleague's board of a shared class is live as well; this one is not shared yet.
  const context = await browser.newContext({ viewport: DESK })
  const other = await context.newPage()
  await signIn(other, 'O. Fairlead', 'copper over still water')
  await expect(other.getByRole('heading', { level: 1 })).toContainText(/under way|began today/)
  await other.goto('/board/1')
  await expect(other.getByText('There is no such run')).toBeVisible()
  await desk.goto('/shelf/classes')
  await desk.getByRole('link', { name: /11-Basalt/ }).click()
  await desk.getByLabel('O. Fairlead').click()
  await expect(desk.getByLabel('O. Fairlead')).toBeChecked()
  await other.goto('/board/1')
  const cell = other.getByRole('button', { name: /^Galena, mass of the dish with dry crystals/ })
  await expect(cell).toHaveAccessibleName(/53\.41 g/)
  await expect(other.getByText('· live')).toBeVisible()

  await desk.goto('/board/1')
  await desk.getByRole('link', { name: 'Galena', exact: true }).click()
  await desk.getByRole('button', { name: 'edit mass of the dish with dry crystals' }).click()
  await form.getByLabel('why').fill("another group's dish")
  await form.getByRole('button', { name: 'Take it out' }).click()
  await expect(cell).toHaveCount(0)
  await expect(
    galena.getByText("was taken out by your instructor: another group's dish").first(),
  ).toBeVisible()
  await look(desk)
})

test('a photo is small and of this bench; what is no picture is told', async ({ browser }) => {
  const desk = await instructor(browser)
  const galena = await group(browser, 'Galena', '553943')
  await galena.goto('/bench/3')
  await expect(galena.getByText('Take a photo')).toHaveCount(0)
  await desk.goto('/board/1/people')
  await desk.getByLabel('photos may be taken at the benches').click()
  const camera = galena.getByLabel('Take a photo')
  await camera.setInputFiles({
    name: 'notes.jpg',
    mimeType: 'image/jpeg',
    buffer: Buffer.from('<svg onload=alert(1)>'),
  })
  await expect(galena.getByText(/“notes.jpg” is no picture/)).toBeVisible()
  const picture = readFileSync(new URL('../../docs/screenshots/shelf.png', import.meta.url))
  await camera.setInputFiles({ name: 'bench.png', mimeType: 'image/png', buffer: picture })
  const taken = galena.getByRole('img', { name: 'photo 1 of this step' })
  await expect(taken).toBeVisible()
  await expect(taken).toHaveJSProperty('naturalWidth', 1280)
  await desk.goto('/board/1')
  await desk.getByRole('link', { name: 'Galena', exact: true }).click()
  await desk.getByRole('region', { name: 'photos' }).getByRole('button', { name: 'delete' }).click()
  await expect(taken).toHaveCount(0)
})

test('names are put on a roster, stay names whatever they are, and are erased for good', async ({
  browser,
}) => {
  const desk = await instructor(browser)
  await desk.goto('/shelf/classes')
  await desk.getByRole('link', { name: /11-Basalt/ }).click()
  const list = desk.getByLabel(/more people/)
  const enrol = desk.getByRole('button', { name: 'Put them on the roster' })
  await list.fill('Last name\tFirst name\nFjord\tNora\n<img src=x onerror=alert(1)>\tMax')
  await enrol.click()
  await expect(desk.getByText('2 put on the roster.')).toBeVisible()
  await expect(desk.getByText('Max <img src=x onerror=alert(1)>')).toBeVisible()
  await desk.evaluate(() => {
    const area = document.querySelector('textarea')
    if (!area) throw new Error('no list')
    Object.getOwnPropertyDescriptor(HTMLTextAreaElement.prototype, 'value')?.set?.call(
      area,
      'Ona Marl\n'.repeat(100_000),
    )
    area.dispatchEvent(new Event('input', { bubbles: true }))
  })
  await enrol.click()
  await expect(desk.getByRole('alert')).toContainText('at most 400 people, and this one has 100000 lines')
  await desk.getByRole('button', { name: 'erase Nora Fjord' }).click()
  await desk.getByRole('button', { name: 'Erase Nora Fjord' }).click()
  await expect(desk.getByText('Nora Fjord')).toHaveCount(0)
  await look(desk)
})

test('a bench that is reloaded without a network opens again on a private connection', async ({
  browser,
}) => {
  // This machine itself counts as private; a certificate of one's own would have to be trusted first.
  const context = await browser.newContext({ viewport: PHONE, hasTouch: true, baseURL: here })
  const phone = await context.newPage()
  await phone.goto('/join/TARN-47')
  await phone.getByRole('button', { name: /^Dolomite/ }).click()
  await phone.getByLabel(/PIN/).fill('296468')
  await phone.getByRole('button', { name: 'We are Dolomite' }).click()
  await expect(phone.getByRole('navigation', { name: 'steps' })).toBeVisible()
  await kept(phone)
  await context.setOffline(true)
  await phone.goto('/bench/4')
  await phone.reload()
  await expect(phone.getByText('49.20')).toBeVisible()
  await expect(phone.getByText(/no network/)).toBeVisible()
  await phone.getByRole('button', { name: 'Call for help' }).click()
  await expect(phone.getByText(/^1 held on this device/)).toBeVisible()
  await context.setOffline(false)
  await expect(phone.getByText('all of it has arrived')).toBeVisible()
})

/** The pages are on the device: the worker is at work, and holds the files that this page was made of. */
async function kept(page: Page): Promise<void> {
  await page.evaluate(async () => {
    await navigator.serviceWorker.ready
    const wanted = performance.getEntriesByType('resource').filter((e) => e.name.includes('/assets/'))
    const all = async () => {
      const cache = await caches.open('keen-beaker-pages')
      const found = await Promise.all(wanted.map((e) => cache.match(e.name)))
      return wanted.length > 0 && found.every(Boolean) && navigator.serviceWorker.controller !== null
    }
    while (!(await all())) await new Promise((r) => requestAnimationFrame(r))
  })
}
