import { expect, test, type Page } from '@playwright/test'
import type { PreparationView, RunHead, SessionView } from '../src/api'
import { instructor, look, PHONE, technician } from './people'

/** The day before: what is put out, what was weighed, whether it fits; and the lesson itself. */

/** What the server says to the page's own request. */
async function asked(page: Page, method: string, path: string, body?: unknown) {
  return page.evaluate(
    async ([method, path, body]) => {
      const headers = { 'x-keen-beaker': '1', 'content-type': 'application/json' }
      const reply = await fetch(`/api/v1${path}`, { method, headers, ...(body !== '' && { body }) })
      return { status: reply.status, body: (await reply.json()) as unknown }
    },
    [method, path, body === undefined ? '' : JSON.stringify(body)] as const,
  )
}

test('a technician prepares a titration, and what was weighed goes into the bottle', async ({ browser }) => {
  const room = await technician(browser)
  await room.getByRole('link', { name: 'Standardising sodium hydroxide' }).first().click()
  // Five groups and one to spare: 6 × (5 × 25 + 2 × 5 + 25) mL.
  await expect(room.getByText('960\u2009mL')).toBeVisible()

  // Ticked in the prep room, seen at the desk; who was first stands.
  await room.getByRole('checkbox', { name: 'potassium hydrogen phthalate is ready' }).click()
  const desk = await instructor(browser)
  await desk.goto('/prepare/2')
  const phthalate = desk.getByRole('checkbox', { name: 'potassium hydrogen phthalate is ready' })
  await expect(phthalate).toBeChecked()
  await expect(desk.getByText(/^T\. Hollow, /)).toBeVisible()

  // A shelf that has too little, then enough.
  await room.goto('/prepare/stock')
  await expect(room.getByText('Nothing on the shelves yet.')).toBeVisible()
  const shelf = room.getByRole('form', { name: 'a new container' })
  await shelf.getByLabel('what is in it').fill('sodium hydroxide')
  await shelf.getByLabel('amount').fill('3.0')
  await shelf.getByRole('button', { name: 'Put it on the shelf' }).click()
  await expect(room.getByRole('list', { name: 'containers' }).getByText('sodium hydroxide')).toBeVisible()
  await look(room)
  await room.goto('/prepare/2/amounts')
  await expect(room.getByText('0.84\u2009g to order')).toBeVisible()
  await room.goto('/prepare/stock')
  await room.getByRole('button', { name: 'count sodium hydroxide' }).click()
  await room.getByLabel('there is now, g').fill('250')
  await room.getByLabel('why').fill('a new bottle')
  await room.getByRole('button', { name: 'Keep it' }).click()
  await room.goto('/prepare/2/amounts')
  await expect(room.getByText('3.84\u2009g of 250\u2009g in stock')).toBeVisible()

  await room.keyboard.press('2')
  await room.getByRole('link', { name: 'sodium hydroxide, 0.100 mol/L' }).click()
  await room.getByLabel('bottles you have, mL').fill('1 × 500, 3 × 250')
  await expect(room.getByText('Into 1 × 500 mL and 2 × 250 mL.')).toBeVisible()
  // A litre flask is hardly larger than 960 mL: 0.100 mol of 39.997 g/mol.
  await expect(room.getByText('Weigh 4.00')).toBeVisible()
  await expect(room.getByText('Make up to the mark only when it is at room temperature.')).toBeVisible()
  await room.getByLabel('what was really taken, g').fill('4.02')
  await expect(room.getByText('0.51\u2009% stronger than planned')).toBeVisible()
  await room.getByLabel('what is written on the bottle').fill('bottle C')
  await room.getByLabel('good until').fill('2026-11-01')
  await room.getByRole('button', { name: 'Put it into the room' }).click()
  await expect(room.getByRole('alert')).toContainText('has passed: a bottle made today keeps longer')
  await room.getByLabel('good until').fill('2026-12-12')
  await room.getByRole('button', { name: 'Put it into the room' }).click()
  const made = room.getByRole('list', { name: 'made already' })
  await expect(
    made.getByText(/bottle C: 0\.1005\d* ± .* from 4\.02 g NaOH in 1000 mL, T\. Hollow/),
  ).toBeVisible()
  await room.getByRole('button', { name: 'take 4.02\u2009g of 250\u2009g off the shelf' }).click()
  await expect(room.getByText('Taken off the shelf.')).toBeVisible()
  // The same name again is refused, and the bottle stands.
  await room.getByLabel('what is written on the bottle').fill('bottle C')
  await room.getByRole('button', { name: 'Put it into the room' }).click()
  await expect(room.getByRole('alert')).toContainText(
    'There is a \u2018bottle C\u2019'.replace(/[\u2018\u2019]/g, "'"),
  )
  await expect(made.getByRole('listitem')).toHaveCount(1)

  // Labels from the third position of a begun sheet; the bottle's own strength stands on its label.
  await room.keyboard.press('Escape')
  await room.getByRole('navigation', { name: 'parts' }).getByText('labels').click()
  const from = room.getByLabel('from position')
  await from.fill('3')
  await from.press('Enter')
  const labels = room.getByRole('list', { name: 'labels to print' })
  await expect(labels.locator('li[aria-hidden]')).toHaveCount(2)
  await expect(labels.getByText(/^0\.1005/)).toBeVisible()

  // Nothing else is a technician's.
  await room.goto('/check/2')
  await expect(room.getByRole('heading', { level: 1, name: 'To prepare' })).toBeVisible()
  expect((await asked(room, 'GET', '/runs/2/check')).status).toBe(403)
})

test('a lesson that does not fit says so, and what would make it fit', async ({ browser }) => {
  const desk = await instructor(browser)
  await desk.goto('/prepare/as-if/gypsum-water/time?groups=12')
  await expect(desk.getByText('12 groups need 100 min of 90: 10 min too long.')).toBeVisible()
  await expect(desk.getByText('With 3 × balance: 88 min.')).toBeVisible()
  // Its twin fits, and asks for nothing.
  await desk.goto('/prepare/as-if/gypsum-water/time?groups=8')
  await expect(desk.getByText('8 groups need 88 min of 90', { exact: false })).toBeVisible()
  await expect(desk.getByText('With 3 × balance')).toHaveCount(0)

  // A shorter lesson of a class that is there: a number of the room, kept, and cut where the work can rest.
  await desk.goto('/prepare/1/time')
  const minutes = desk.getByLabel('minutes of a lesson')
  await minutes.fill('40')
  await minutes.press('Enter')
  await expect(desk.getByText(/min too long\.$/).first()).toBeVisible()
  await minutes.fill('90')
  await minutes.press('Enter')
  await expect(desk.getByText('8 groups need 64 min of 90', { exact: false })).toBeVisible()
  // No groups, and more than any class: told, and nothing breaks.
  for (const groups of ['0', '400', 'many']) {
    await desk.goto(`/prepare/as-if/gypsum-water?groups=${groups}`)
    await expect(
      desk.getByText(groups === 'many' ? 'as if for 8 groups' : 'A run has 1 to 60 groups.'),
    ).toBeVisible()
  }
})

test('the lesson as it was planned, and as it goes', async ({ browser }) => {
  const desk = await instructor(browser)
  await desk.goto('/board/2')
  await expect(desk.getByText(/ of 5 will not be through by 11:35: .*Rowan/)).toBeVisible()

  // Galena's dish dries till tomorrow: today nothing presses, and nobody is told to weigh it.
  await desk.goto('/board/1')
  await expect(desk.getByText(/At the usual pace all are through by 11:\d\d\./)).toBeVisible()
  await expect(desk.getByText(/[bB]egin “Weigh the dry crystals”/)).toHaveCount(0)

  const session = (await asked(desk, 'GET', '/session')).body as SessionView
  const groups = ['Agate', 'Basalt', 'Chert', 'Diorite', 'Flint', 'Garnet'].map((name) => ({ name }))
  const visits = [{ begins_at: session.now, minutes: 90 }]
  const wanted = { practical: 'sodium-hydroxide-standard', class: '12-Schist', groups, visits }
  const run = (await asked(desk, 'POST', '/runs', wanted)).body as RunHead
  const view = (await asked(desk, 'GET', `/runs/${run.id}/preparation`)).body as PreparationView
  const lesson = view.preparation.time.lessons[0]
  const last = lesson?.turns.filter((t) => t.group === 5).at(0)
  const at = new Date(session.now + (last?.from ?? 0) * 60_000)
  const clock = at.toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' })

  const context = await browser.newContext({ viewport: PHONE, hasTouch: true })
  const bench = await context.newPage()
  await bench.goto(`/join/${run.code.replace(' ', '-')}`)
  await bench.getByRole('button', { name: /^Garnet/ }).click()
  await bench.getByRole('button', { name: 'We are Garnet' }).click()
  await expect(bench.getByText(`Balance ${last?.unit ?? 0} is yours at ${clock}`)).toBeVisible()
  await look(bench)

  // On a phone in the prep room: the ticks.
  const phone = await browser.newContext({
    viewport: PHONE,
    storageState: await desk.context().storageState(),
  })
  const ticks = await phone.newPage()
  await ticks.goto(`/prepare/${run.id}/trays`)
  await ticks.getByRole('checkbox', { name: 'Burette 50 mL is ready' }).click()
  await expect(ticks.getByRole('checkbox', { name: 'Burette 50 mL is ready' })).toBeChecked()
  await look(ticks)
})

test('the calendar: what waits comes back in a lesson, and a day off is no lesson', async ({ browser }) => {
  const room = await technician(browser)
  await room.goto('/prepare/calendar')
  await expect(room.getByLabel('period 3 begins')).toHaveValue('10:05')
  await room.getByLabel('minutes of period 2').fill('90')
  await room.getByRole('button', { name: 'Keep the calendar' }).click()
  await expect(room.getByRole('alert')).toContainText('period 3 begins before period 2 is over')
  await room.getByLabel('minutes of period 2').fill('45')

  // Friday is off: out of a file, of which a person says what it means.
  const file = (text: string) => ({ name: 'x.ics', mimeType: 'text/calendar', buffer: Buffer.from(text) })
  const input = room.locator('input[type=file]')
  await input.setInputFiles(file('Friday is off'))
  await expect(room.getByText(/^This is no iCalendar file/)).toBeVisible()
  await input.setInputFiles(
    file(
      'BEGIN:VCALENDAR\r\nVERSION:2.0\r\nBEGIN:VEVENT\r\nUID:1\r\nDTSTART;VALUE=DATE:20261113\r\nSUMMARY:Founders\r\nEND:VEVENT\r\n' +
        'BEGIN:VEVENT\r\nUID:2\r\nDTSTART;VALUE=DATE:20261112\r\nSUMMARY:Concert\r\nEND:VEVENT\r\nEND:VCALENDAR\r\n',
    ),
  )
  await room.getByLabel('Founders: 2026-11-13').check()
  await room.getByRole('button', { name: 'Add them' }).click()
  await room.getByRole('button', { name: 'Keep the calendar' }).click()
  await expect(room.getByLabel('first day of Founders')).toHaveValue('2026-11-13')
  await expect(room.getByRole('button', { name: 'Keep the calendar' })).toBeDisabled()
  await expect(room.getByLabel('first day of Concert')).toHaveCount(0)
  await look(room)
  await room.goto('/prepare')
  await expect(room.getByText('Lesson 2, Fri 13 Nov: the school is closed: Founders.')).toBeVisible()

  // The class's lesson is its instructor's to move; what dries must not wait longer than three days.
  await room.goto('/prepare/4/time')
  const instead = (page: Page) => page.getByRole('list', { name: 'instead of lesson 2' })
  await expect(instead(room).getByText('Thu 12 Nov 13:05, periods 5 to 6')).toBeVisible()
  await expect(room.getByRole('button', { name: /^plan lesson 2/ })).toHaveCount(0)
  const desk = await instructor(browser)
  await desk.goto('/prepare/4/time')
  await desk.getByRole('button', { name: 'plan lesson 2 for Thu 12 Nov 13:05, periods 5 to 6' }).click()
  await expect(desk.getByText(/Lesson 2 fits\./)).toBeVisible()
  await look(desk)
})

test('what is printed: trays, vials, slips; and a bottle takes what its class found', async ({ browser }) => {
  const room = await technician(browser)
  await room.goto('/prepare/4/sheets')
  await room.getByRole('radio', { name: 'tray cards' }).check()
  const card = room
    .getByRole('list', { name: 'tray cards' })
    .getByRole('listitem')
    .filter({ hasText: 'Spruce' })
  await expect(card).toContainText('unknown R8')
  // What is in it is the instructor's to know; so are the PINs.
  await expect(room.getByText('magnesium sulfate')).toHaveCount(0)
  await expect(room.getByRole('radio', { name: 'join sheet' })).toHaveCount(0)
  // Who fills the vials has the key; the codes are looked at twice.
  await room.goto('/prepare/4/trays')
  await expect(room.getByRole('listitem').filter({ hasText: 'R8' })).toContainText('potassium sulfate')
  for (const what of ['vial R8', 'the code of vial R8', 'glassware washed']) {
    const box = room.getByRole('checkbox', { name: `${what} is ready`, exact: true })
    await box.click()
    await expect(box).toBeChecked()
  }
  await look(room)
  await room.goto('/prepare/4/labels')
  await room.getByRole('combobox', { name: 'labels for' }).selectOption('vials of unknowns')
  const vials = room.getByRole('list', { name: 'labels to print' }).getByRole('listitem')
  await expect(vials).toHaveCount(6)
  await expect(vials.first()).toContainText('K3')
  await look(room)

  const desk = await instructor(browser)
  await desk.goto('/prepare/4/sheets')
  await desk.getByRole('radio', { name: 'join sheet' }).check()
  await expect(desk.getByRole('listitem').filter({ hasText: 'Aspen' })).toContainText('PIN 9034')
  await look(desk)
  await desk.goto('/prepare/2/solutions')
  await desk.getByRole('button', { name: /^make 0\.0972\d* ± .* the strength of bottle A$/ }).click()
  await desk.getByRole('link', { name: 'bottle A' }).click()
  await expect(desk.getByText(/^standardised by 12-Gneiss, 2 groups; R\. Ashdown/)).toBeVisible()
  await expect(desk.getByText('Alder, Birch')).toBeVisible()
  await look(desk)
  await desk.goto('/prepare/bottles/bottle%20Z')
  await expect(desk.getByText('It may have been taken out of the room.')).toBeVisible()
})
