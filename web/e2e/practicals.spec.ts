import { randomUUID } from 'node:crypto'
import { expect, test, type Browser, type Page } from '@playwright/test'
import type { Board } from '../src/api'
import { instructor, keypad, look, PHONE } from './people'

/** Every kind of practical at the bench of one phone, on plain http: judged while it can still be mended. */
test.describe.configure({ mode: 'serial' })

let desk: Page

test.beforeAll(async ({ browser }) => {
  desk = await instructor(browser)
})

/** A run of a practical with one group, and that group's phone. */
async function groupAt(browser: Browser, practical: string): Promise<{ page: Page; run: number }> {
  const { code, run } = await desk.evaluate(async (practical) => {
    const body = JSON.stringify({ practical, class: '12-Schist', groups: [{ name: 'Topaz' }] })
    const headers = { 'content-type': 'application/json', 'x-keen-beaker': '1' }
    const opened = (await (await fetch('/api/v1/runs', { method: 'POST', headers, body })).json()) as {
      code: string
      id: number
    }
    return { code: opened.code, run: opened.id }
  }, practical)
  const context = await browser.newContext({ viewport: PHONE, hasTouch: true })
  const page = await context.newPage()
  await page.goto(`/join/${code.replace(' ', '-')}`)
  await page.getByRole('button', { name: /^Topaz/ }).click()
  await page.getByRole('button', { name: 'We are Topaz' }).click()
  await expect(page.getByRole('navigation', { name: 'steps' })).toBeVisible()
  return { page, run }
}

/** Types a reading on the keypad, below its own name, and keeps it. */
async function take(page: Page, name: RegExp, digits: string): Promise<void> {
  await expect(page.getByRole('textbox', { name })).toBeVisible()
  await keypad(page, digits)
  await page.getByRole('button', { name: 'Keep' }).click()
  await expect(page.getByText('all of it has arrived')).toBeVisible()
}

const advice = (page: Page) => page.getByRole('status', { name: 'advice' })

test('a titration is run to concordance past one discordant titre', async ({ browser }) => {
  const { page, run } = await groupAt(browser, 'vinegar')
  await page.goto('/bench/3')
  const trial = async (n: number, start: string, end: string) => {
    await take(page, new RegExp(`initial burette reading, trial ${n}`), start)
    await take(page, new RegExp(`final burette reading, trial ${n}`), end)
  }
  await trial(1, '0.10', '21.60')
  await expect(advice(page)).toContainText('Trial 2 should take about 21.5 mL. Slow down after 20.5 mL.')
  await trial(2, '0.10', '21.20')
  await trial(3, '0.15', '21.65')
  // 21.10 and 21.50 do not agree: one more, while the burette is still up.
  await expect(advice(page)).toContainText(
    'One more: the nearest two are 0.40 mL apart, and 0.10 mL is the limit.',
  )
  await look(page)
  await trial(4, '0.20', '21.35')
  await expect(advice(page)).toContainText(
    'Titres 2 and 4 agree within 0.05 mL: 2 of 3 used. No more are needed.',
  )
  await look(page, 'bench-titration')
  await expect(advice(page).getByRole('img', { name: /titres 21.50, 21.10, 21.50, 21.15/ })).toBeVisible()
  await expect(page.getByRole('button', { name: /trial 5/ }).first()).toBeVisible()
  await page.getByRole('radio', { name: 'first lasting pink' }).click()
  await page.getByRole('button', { name: /^Next step/ }).click()

  await desk.goto(`/board/${run}`)
  await expect(desk.getByRole('button', { name: 'Topaz, titre, trial 4: 21.15 mL' })).toBeVisible()
  // A reading altered into agreement stays visible as such.
  await page.goto('/bench/3?take=V_end%5B3%5D')
  await keypad(page, '21.30')
  await page.getByRole('button', { name: 'Keep' }).click()
  await expect(page.getByRole('table').locator('s')).toHaveText('21.65')
  await desk.getByRole('button', { name: 'Topaz, titre, trial 3: 21.15 mL' }).click()
  await expect(desk.getByRole('complementary', { name: 'margin' }).locator('s').first()).toHaveText('21.65')
})

test('a crucible is heated to constant mass, and what is heavier after heating is told', async ({
  browser,
}) => {
  const { page } = await groupAt(browser, 'gypsum-water')
  await page.getByLabel('What is written on your crucible?').fill('7')
  await page.getByRole('button', { name: 'This is ours' }).click()
  await expect(page.getByText('Your crucible: 7')).toBeVisible()
  await page.getByRole('radio', { name: 'Balance 3' }).click()
  await take(page, /heated-out crucible .* Balance 3/, '31.500')
  await page.getByRole('button', { name: /^Next step/ }).click()
  // The device remembers its balance; portions on the way are kept, the last counts.
  await keypad(page, '33.104')
  await page.getByRole('button', { name: /Add another portion/ }).click()
  await take(page, /crucible with gypsum · Balance 3/, '33.500')
  await expect(page.getByText('on the way: 33.104')).toBeVisible()
  await page.getByRole('button', { name: /^Next step/ }).click()
  await take(page, /mass after heating, heating 1/, '33.141')
  await expect(advice(page)).toContainText('Provisional: weigh again; two must agree within 0.003 g.')
  await take(page, /mass after heating, heating 2/, '33.084')
  await expect(advice(page)).toContainText('Not dry yet: 0.057 g apart')
  await take(page, /mass after heating, heating 3/, '33.081')
  await expect(advice(page)).toContainText('Dry: the last two weighings agree within 0.003 g.')
  await page.goto('/bench/3?take=m_heated%5B4%5D')
  await take(page, /mass after heating, heating 4/, '33.801')
  await expect(advice(page)).toContainText('0.720 g heavier after heating.')
  await page.goto('/bench/3?take=m_heated%5B4%5D')
  await take(page, /mass after heating, heating 4/, '33.081')
  await expect(advice(page)).toContainText('Dry: the last two weighings agree within 0.000 g.')
})

test('a limiting-reagent run with a spill: recomputed, told after the answers, undone', async ({
  browser,
}) => {
  const { page, run } = await groupAt(browser, 'strontium-sulfate')
  await take(page, /mass of strontium chloride/, '1.500')
  await page.goto('/bench/2')
  await take(page, /volume of sodium sulfate/, '20.00')
  await page.getByRole('button', { name: 'Something went wrong' }).click()
  const form = page.getByRole('form', { name: 'something went wrong' })
  await form.getByRole('button', { name: 'strontium chloride hexahydrate' }).click()
  await form.getByLabel('about how much').fill('0,45')
  await form.getByLabel(/Anything else/).fill('<b>knocked over</b>')
  await look(page)
  await form.getByRole('button', { name: 'Keep it' }).click()
  await expect(page.getByText('all of it has arrived')).toBeVisible()
  // Which reagent limits is what this practical asks: the group hears that it is kept, and no more.
  await expect(advice(page)).toContainText('Noted.')
  await expect(advice(page)).not.toContainText('runs out first')
  await desk.goto(`/board/${run}`)
  const margin = desk.getByRole('complementary', { name: 'margin' })
  await expect(margin).toContainText(
    'Now strontium chloride hexahydrate runs out first, not sodium sulfate as meant.',
  )
  await expect(margin).toContainText(
    'lost about 0.45 g of strontium chloride hexahydrate (<b>knocked over</b>)',
  )
  // It did not happen after all: withdrawn, and the judgement with it.
  await page.getByRole('button', { name: 'Something went wrong' }).click()
  await page.getByRole('button', { name: 'delete' }).click()
  await expect(margin).not.toContainText('runs out first')
})

test('a number is typed with its unit, asked back where it may be two, and a choice follows from it', async ({
  browser,
}) => {
  const { page, run } = await groupAt(browser, 'strontium-sulfate')
  await take(page, /mass of strontium chloride/, '1.482')
  await page.goto('/bench/2')
  await take(page, /volume of sodium sulfate/, '20.00')
  await page.goto('/bench/7')
  const answer = async (name: RegExp, text: string) => {
    await page.getByRole('textbox', { name }).fill(text)
    await page.getByRole('button', { name: 'Send' }).click()
    await expect(page.getByText('all of it has arrived')).toBeVisible()
  }
  const strontium = page.getByRole('textbox', { name: 'amount of strontium' })
  await strontium.fill('5,559')
  await expect(page.getByText('Is this 5559, or 5.559?')).toBeVisible()
  await expect(page.getByRole('button', { name: 'Send' })).toBeDisabled()
  await expect(strontium).toHaveValue('5,559')
  await answer(/amount of strontium/, '≈ 5.559 mmol')
  await expect(page.getByRole('region', { name: 'amount of strontium' })).toContainText('mmol')
  // Ten times too much: by these amounts strontium runs out, and what follows is right with that.
  await answer(/amount of sulfate/, '40.0 mmol')
  await page.getByRole('radio', { name: 'strontium chloride hexahydrate' }).click()
  await page.getByRole('button', { name: 'Send' }).click()
  await expect(page.getByRole('region', { name: 'reagent that limits' })).toBeVisible()
  await answer(/theoretical yield/, '1.021 g')
  await look(page)
  await desk.goto(`/check/${run}`)
  await desk.getByRole('link', { name: /theoretical yield/ }).click()
  const margin = desk.getByRole('complementary', { name: 'margin' })
  await expect(margin).toContainText('right, using their earlier amount of sulfate, 40.0 mmol')
})

test('a recrystallisation in two crops, each with its melting range', async ({ browser }) => {
  const { page } = await groupAt(browser, 'benzylbenzamide')
  await page.goto('/bench/3')
  await take(page, /empty vial, crop 1/, '12.000')
  await take(page, /vial with its crop, crop 1/, '13.350')
  await take(page, /empty vial, crop 2/, '11.850')
  await take(page, /vial with its crop, crop 2/, '12.130')
  await page.getByRole('radio', { name: 'oil' }).click()
  await expect(advice(page)).toContainText('warm until clear')
  await page.getByRole('radio', { name: 'white needles' }).click()
  await expect(advice(page)).not.toContainText('warm until clear')
  await page.goto('/bench/4')
  await take(page, /first crop, begins/, '104.5')
  await take(page, /first crop, ends/, '106.0')
  await expect(advice(page)).toContainText('Melts like pure N-benzylbenzamide')
  await take(page, /second crop, begins/, '98.0')
  await take(page, /second crop, ends/, '103.0')
  await expect(advice(page)).toContainText('melts over 5.0 °C')
  await look(page)
})

test('a series grows into its plot, and says when the pH is reached', async ({ browser }) => {
  const { page } = await groupAt(browser, 'buffer')
  await page.goto('/bench/3')
  await take(page, /initial burette reading/, '0.10')
  for (const [n, volume, ph] of [
    [1, '3.00', '4.52'],
    [2, '5.00', '4.81'],
    [3, '6.10', '4.95'],
  ] as const) {
    await page.goto(`/bench/3?take=V_at%5B${n}%5D`)
    await take(page, new RegExp(`burette on the way, point ${n}`), volume)
    await page.goto(`/bench/3?take=pH_at%5B${n}%5D`)
    await take(page, new RegExp(`pH on the way, point ${n}`), ph)
  }
  await expect(page.getByRole('img', { name: /pH.* against burette.*, 3 points/ })).toBeVisible()
  await page.goto('/bench/3?take=p_H')
  await take(page, /pH at the end/, '4.96')
  await expect(advice(page)).toContainText('still 0.04 from pH 5.0')
  await look(page)
})

test('drops are counted by a tap each, and a note is kept in the words of the group', async ({ browser }) => {
  const { page, run } = await groupAt(browser, 'zinc-iodide')
  await page.goto('/bench/2')
  for (let i = 0; i < 3; i++) await page.getByRole('button', { name: 'one drop' }).click()
  await expect(page.getByRole('textbox', { name: /drops of ethanoic acid/ })).toHaveValue('3')
  await page.getByRole('button', { name: 'Keep' }).click()
  await page.getByLabel(/with the first portion/).fill('it gets warm, and <i>brown</i>')
  await page.getByRole('button', { name: 'Note it' }).click()
  await expect(page.getByText('it gets warm, and <i>brown</i>')).toBeVisible()
  await page.getByRole('radio', { name: 'brown' }).click()
  await expect(advice(page)).toContainText('Iodine is still there')
  await expect(page.getByRole('button', { name: /^Next step/ })).toBeVisible()
  await look(page)
  await desk.goto(`/board/${run}`)
  await expect(
    desk.getByRole('button', { name: 'Topaz, drops of ethanoic acid in the water: 3 1' }),
  ).toBeVisible()
})

test('a clock starts on its condition, survives a reload, rings here and on the board', async ({
  browser,
}) => {
  const { page, run } = await groupAt(browser, 'strontium-sulfate')
  await page.goto('/bench/3')
  await page.getByRole('button', { name: 'It is at 80 °C: start 15:00' }).click()
  await expect(page.getByRole('timer')).toHaveText(/^14:5\d$|^15:00$/)
  await page.reload()
  await expect(page.getByRole('timer')).toHaveText(/^14:/)
  await page.goto('/bench/1')
  await expect(page.getByRole('region', { name: 'clocks running' })).toContainText(/14:\d\d/)
  await desk.goto(`/board/${run}`)
  await expect(desk.getByRole('region', { name: 'clocks' })).toContainText(/Topaz/)

  // A shorter one, entered as the device would, runs out at once.
  await page.evaluate(async () => {
    const view = (await (await fetch('/api/v1/bench')).json()) as { group_id: number; now: number }
    const id = '0192e4a0-0000-7000-8000-0000000000cc'
    const entry = { kind: 'clock', step: 2, running: true, seconds: 1 }
    const headers = { 'content-type': 'application/json', 'x-keen-beaker': '1' }
    const body = JSON.stringify({ id, group: view.group_id, entry, taken_at: view.now })
    await fetch('/api/v1/bench/entries', { method: 'POST', headers, body })
  })
  const alarms = page.getByRole('region', { name: 'clocks running' })
  await expect(alarms).toContainText('Time: ')
  await alarms.getByRole('button', { name: 'Mute all alarms on this device' }).click()
  await expect(alarms.getByRole('button', { name: /Alarms are muted/ })).toBeVisible()
  await look(page)
  await expect(desk.getByRole('button', { name: 'mute all alarms here' })).toBeVisible()
  await look(desk)
  await alarms.getByRole('link').click()
  await page.getByRole('button', { name: 'Stop the alarm' }).click()
  await expect(alarms).toHaveCount(0)
  await expect(desk.getByRole('button', { name: 'mute all alarms here' })).toHaveCount(0)
})

test('five entries and a correction without a network arrive once, in order, through a closed page', async ({
  browser,
}) => {
  const { page, run } = await groupAt(browser, 'epsom-salt')
  const context = page.context()
  await page.goto('/bench/3')
  await expect(page.getByRole('radio', { name: 'all dissolved' })).toBeVisible()
  await context.setOffline(true)
  await page.getByRole('radio', { name: 'all dissolved' }).click()
  await page.getByRole('radio', { name: 'solid remains' }).click()
  await page.getByRole('radio', { name: 'no fizz' }).click()
  await page.getByRole('radio', { name: 'stays blue' }).click()
  await page.getByRole('link', { name: /step 1:/ }).click()
  await keypad(page, '30.4')
  await expect(page.getByText('Expected between 2.9 and 3.1')).toBeVisible()
  await page.getByRole('button', { name: 'Keep' }).click()
  await page.getByRole('button', { name: 'Correct it' }).click()
  await keypad(page, '3.04')
  await page.getByRole('button', { name: 'Keep' }).click()
  await expect(page.getByText(/^6 held on this device/)).toBeVisible()
  await expect(page.getByText(/kept on this device; judged when connected/)).toBeVisible()
  // The page is closed with everything still on it; another one finds it and sends it.
  await page.close()
  await context.setOffline(false)
  const later = await context.newPage()
  await later.goto('/bench/1')
  await expect(later.getByText('all of it has arrived')).toBeVisible()
  await expect(later.locator('s')).toHaveText('30.4')
  const row = await desk.evaluate(async (run) => {
    const board = (await (await fetch(`/api/v1/runs/${run}/board`)).json()) as Board
    return board.rows[0]
  }, run)
  expect(row?.readings['m_carbonate']?.struck.map((s) => s.text)).toEqual(['30.4'])
  expect(row?.observations['solid']?.struck.map((s) => s.text)).toEqual(['all dissolved'])
})

test('help is called and cancelled, and a titration is entered by keyboard alone', async ({ browser }) => {
  const { page, run } = await groupAt(browser, 'vinegar')
  await desk.goto(`/board/${run}`)
  await page.goto('/bench/3')
  await expect(page.getByRole('textbox', { name: /initial burette reading, trial 1/ })).toBeFocused()
  for (const digits of ['0.10', '21,60', '0.10', '21.20']) {
    await page.keyboard.type(digits)
    await page.keyboard.press('Enter')
    await expect(page.getByRole('textbox')).toHaveValue('')
    await expect(page.getByRole('textbox')).toBeFocused()
  }
  await expect(advice(page)).toContainText('One more: two must agree within 0.10 mL.')
  await page.getByRole('button', { name: 'Call for help' }).focus()
  await page.keyboard.press('Enter')
  await expect(desk.getByText('calls for help at step 3.')).toBeVisible()
  await page.keyboard.press('Enter')
  await expect(desk.getByText('calls for help at step 3.')).toHaveCount(0)
})

/** An id as a device makes it. */
const uuid7 = () => randomUUID().replace(/^(.{14})./, '$17')

/** What a faultless group would say at a practical, as the core makes it up: readings, observations, answers, steps done. */
async function faultless(practical: string, given: object): Promise<object[]> {
  return desk.evaluate(
    async ({ practical, given }) => {
      const question = { kind: 'simulate', practical: { id: practical }, seed: 11, ...given }
      const headers = { 'content-type': 'application/json', 'x-keen-beaker': '1' }
      const asked = await fetch('/api/v1/compute', {
        method: 'POST',
        headers,
        body: JSON.stringify(question),
      })
      const { entries } = (await asked.json()) as { entries: { kind: string; at: number }[] }
      // Clocks are left out: nobody here waits for them.
      return entries
        .filter((e) => !['clock', 'begun'].includes(e.kind))
        .map((e) => Object.fromEntries(Object.entries(e).filter(([key]) => key !== 'at')))
    },
    { practical, given },
  )
}

for (const [practical, given] of [
  ['strontium-sulfate', { assignment: 'recipe B' }],
  ['unknown-by-melting', { unknown: 'U4' }],
  ['unknown-by-melting', { unknown: 'U9' }],
  ['antacid', {}],
  ['double-salt', {}],
] as const)
  test(`a faultless group hears nothing doubtful on its phone: ${practical} ${Object.values(given).join('')}`, async ({
    browser,
  }) => {
    const { page, run } = await groupAt(browser, practical)
    const entries = await faultless(practical, given)
    expect(entries.length).toBeGreaterThan(8)
    const group = await page.evaluate(
      async () => ((await (await fetch('/api/v1/bench')).json()) as { group_id: number }).group_id,
    )
    const allotted = await desk.evaluate(
      async ({ run, group, given }) => {
        const headers = { 'content-type': 'application/json', 'x-keen-beaker': '1' }
        const body = JSON.stringify({ assignment: null, unknown: null, ...given })
        return (await fetch(`/api/v1/runs/${run}/groups/${group}/allotted`, { method: 'PUT', headers, body }))
          .status
      },
      { run, group, given },
    )
    expect(allotted).toBeLessThan(300)
    const refused = await page.evaluate(
      async ({ group, entries }) => {
        const headers = { 'content-type': 'application/json', 'x-keen-beaker': '1' }
        const told: string[] = []
        for (const entry of entries) {
          const body = JSON.stringify({ ...entry, group, taken_at: Date.now() })
          const sent = await fetch('/api/v1/bench/entries', { method: 'POST', headers, body })
          if (!sent.ok) told.push(`${JSON.stringify(entry)}: ${await sent.text()}`)
        }
        return told
      },
      { group, entries: entries.map((entry) => ({ id: uuid7(), entry })) },
    )
    expect(refused).toEqual([])
    const steps = await page.getByRole('navigation', { name: 'steps' }).getByRole('link').count()
    for (let step = 1; step < steps; step++) {
      await page.goto(`/bench/${step}`)
      await expect(page.getByText('all of it has arrived')).toBeVisible()
      await expect(page.getByRole('img', { name: /^(doubtful|wrong)$/ })).toHaveCount(0)
    }
  })

test('a fifth heating has a place, and a second crop is told while the liquor is there', async ({
  browser,
}) => {
  const gypsum = await groupAt(browser, 'gypsum-water')
  const { page } = gypsum
  await page.goto('/bench/3')
  for (const [n, mass] of [
    [1, '33.200'],
    [2, '33.150'],
    [3, '33.110'],
    [4, '33.090'],
  ] as const)
    await take(page, new RegExp(`mass after heating, heating ${n}`), mass)
  await expect(advice(page)).toContainText('Not dry yet: 0.020 g apart')
  await page.goto('/bench/3?take=m_heated%5B4%5D')
  await keypad(page, '33.088')
  await page.getByRole('button', { name: 'measured again' }).click()
  await page.getByRole('button', { name: 'Keep' }).click()
  await expect(advice(page)).toContainText('Dry: the last two weighings agree within 0.002 g.')

  const salt = await groupAt(browser, 'epsom-salt')
  await salt.page.goto('/bench/4')
  await take(salt.page, /empty dish/, '47.91')
  await salt.page.goto('/bench/9')
  await take(salt.page, /dish with dry crystals/, '51.73')
  await expect(advice(salt.page)).toContainText('The liquor still holds about 1.1 g')
})
