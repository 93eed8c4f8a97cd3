import { expect, test, type Locator, type Page } from '@playwright/test'
import { group, instructor, keypad, look } from './people'

/** Where the meniscus stands, from the words beside the picture: as good as any eye, level with it. */
async function meniscus(page: Page): Promise<number> {
  const words = (await page.getByRole('img', { name: /^burette: / }).getAttribute('aria-label')) ?? ''
  const on = /on the mark ([\d.]+)/.exec(words)
  if (on) return Number(on[1])
  const [, low, high, where] = /between ([\d.]+) and ([\d.]+) mL, (.+)/.exec(words) ?? []
  const part =
    where === 'half way'
      ? 0.5
      : where === `nearer ${low}`
        ? 0.35
        : where === `nearer ${high}`
          ? 0.65
          : where?.startsWith('just past') === true
            ? 0.15
            : 0.85
  return Number(low) + part * 0.1
}

/** The walls have drained: what is read no longer changes. */
async function drained(page: Page): Promise<number> {
  let before = -1
  await expect
    .poll(
      async () => {
        const now = await meniscus(page)
        const rests = now === before
        before = now
        return rests
      },
      { intervals: [1500] },
    )
    .toBe(true)
  return before
}

/** A key held down until the burette stands where it should. */
async function held(page: Page, key: Locator, until: (level: number) => boolean) {
  await key.focus()
  await page.keyboard.down(' ')
  await expect.poll(async () => until(await meniscus(page)), { intervals: [100], timeout: 60_000 }).toBe(true)
  await page.keyboard.up(' ')
}

async function read(page: Page, which: string, value: number) {
  await page.getByRole('button', { name: `Take the ${which} reading` }).click()
  await keypad(page, value.toFixed(2))
  await page.getByRole('button', { name: 'Keep' }).click()
}

test('a titration by hand: filled, read, run in and stopped at the first colour that lasts, and told what it was worth', async ({
  browser,
}) => {
  test.setTimeout(180_000)
  const page = await instructor(browser)
  await page.setViewportSize({ width: 390, height: 844 })
  await page.goto('/practice/vinegar/titration?no=4')
  await expect(page.getByText('The burette is empty.')).toBeVisible()
  await page.getByRole('button', { name: 'Fill the burette' }).click()
  await held(page, page.getByRole('button', { name: /waste/ }), (level) => level > 1.6)
  const start = await drained(page)
  await read(page, 'initial', start)
  const stream = page.getByRole('button', { name: /stream/ })
  await held(page, stream, (level) => level > start + 17)
  const flask = page.locator('figcaption')
  await page.getByRole('button', { name: 'Swirl' }).click()
  await expect(flask).toHaveText('colourless')
  await page.getByRole('button', { name: 'One drop' }).click()
  await expect(flask).toContainText('not mixed')
  await look(page, 'practice-titration')
  // A finger on the key does what the keyboard does.
  const drop = page.getByRole('button', { name: 'One drop' })
  const swirl = page.getByRole('button', { name: 'Swirl' })
  await expect
    .poll(
      async () => {
        await drop.tap().catch(() => drop.click())
        await swirl.click()
        await expect(flask).not.toContainText('not mixed')
        return flask.innerText()
      },
      { intervals: [0], timeout: 120_000 },
    )
    .toBe('pink that lasts')
  await read(page, 'final', await drained(page))
  await expect(page.getByText('stopped within a drop')).toBeVisible()
  await look(page)
  await page.getByRole('button', { name: 'Write it down' }).click()
  await expect(page.getByRole('row', { name: /^1, rough/ })).toBeVisible()
  await expect(page.getByText(/^Trial 2 should take about/)).toBeVisible()
})

test('a problem from the group’s own practical: a wrong sum is named by a hint, a right one is right', async ({
  browser,
}) => {
  const beryl = await group(browser, 'Beryl', '418234')
  await beryl.goto('/practice')
  await beryl.getByRole('link', { name: 'Epsom salt from basic magnesium carbonate' }).click()
  const url = new URL(beryl.url())
  const given = await beryl.evaluate(async (practical) => {
    const body = JSON.stringify({ problem: { practical, seed: 1 } })
    const headers = { 'x-keen-beaker': '1', 'content-type': 'application/json' }
    const reply = await fetch('/api/v1/practice/worked', { method: 'POST', body, headers })
    return (await reply.json()) as { result: string; label: string; comes_to: string }[]
  }, url.pathname.split('/')[2])
  const theory = given.find((r) => r.result === 'm_theory')
  expect(theory).toBeDefined()
  const [right = '', unit = ''] = theory?.comes_to.split(' ') ?? []
  const asked = beryl.getByRole('region', { name: 'what is asked' })
  const line = asked.getByRole('listitem').filter({ hasText: theory?.label ?? '' })
  const answer = async (text: string) => {
    await line
      .getByRole('button', { name: /answer/ })
      .click()
      .catch(() => undefined)
    await keypad(beryl, text)
    await beryl.getByRole('radio', { name: unit, exact: true }).click()
    await beryl.getByRole('button', { name: 'Send' }).click()
  }
  // In milligrams where grams are asked for: a factor of a thousand.
  await answer(String(Number(right) / 1000))
  await expect(line.getByText('not right yet')).toBeVisible()
  await line.getByRole('button', { name: 'a hint' }).click()
  await expect(line.getByText(/check/)).toBeVisible()
  await look(beryl)
  await answer(right)
  await expect(line.getByText('right', { exact: true })).toBeVisible()
  await beryl.getByRole('button', { name: 'show the solution' }).click()
  await expect(asked.getByRole('heading', { name: new RegExp(right.replace('.', '\\.')) })).toBeVisible()
  await beryl.getByRole('link', { name: /back to Beryl/ }).click()
  await expect(beryl.getByRole('navigation', { name: 'steps' })).toBeVisible()
})

test('a crucible that is still hot reads low; the eye off level reads high or low; both are told', async ({
  browser,
}) => {
  const page = await instructor(browser)
  await page.goto('/practice/balance?no=3')
  const rests = page.getByText(/^stable/)
  const shown = async () =>
    ((await page.locator('figure text').first().textContent()) ?? '').replaceAll(/[^\d.]/g, '')
  const weigh = async (what: RegExp) => {
    await page.getByRole('button', { name: what }).click()
    await expect(page.getByText(/^still settling/)).toBeVisible()
    await expect(rests).toBeVisible()
    await page.getByRole('textbox').fill(await shown())
    await page.getByRole('button', { name: 'Keep' }).click()
  }
  await weigh(/boat with the solid/)
  await weigh(/empty boat/)
  const solid = page.getByText('the solid, by difference')
  await expect(solid.locator('..')).not.toContainText('was it')
  // Out of the flame and on the pan: it climbs, and what is written down at once is low.
  await page.getByRole('button', { name: /hot crucible/ }).click()
  const before = Number(await shown())
  await page.getByRole('button', { name: 'Brush the pan' }).click()
  await page.getByRole('textbox').fill(await shown())
  await page.getByRole('button', { name: 'Keep' }).click()
  await expect(page.getByText(/g low: was it still hot/)).toBeVisible()
  await page.getByRole('button', { name: 'Wait two minutes' }).click()
  await expect.poll(async () => Number(await shown())).toBeGreaterThan(before)
  await look(page)

  await page.goto('/practice/scales?no=5')
  const scale = page.getByRole('img').first()
  const off = await scale.getAttribute('aria-label')
  await page.getByRole('slider').fill('0')
  await expect(scale).not.toHaveAttribute('aria-label', off ?? '')
  await page.getByRole('textbox').fill('1')
  await page.getByRole('button', { name: 'Read' }).click()
  await expect(page.getByText(/It stood at/)).toBeVisible()
  await look(page)
})

test('the slip in a finished sum is found among five', async ({ browser }) => {
  const page = await instructor(browser)
  await page.goto('/practice/vinegar/slip?no=4')
  const choices = page.getByRole('region', { name: 'the sum' }).getByRole('listitem')
  await expect(choices).toHaveCount(5)
  let yes = 0
  for (const choice of await choices.all()) {
    await choice.getByRole('button').click()
    await expect(page.getByText(/^(Yes\.|No: )/)).toBeVisible()
    if (await page.getByText('Yes.', { exact: true }).isVisible()) {
      yes += 1
      await look(page)
    }
  }
  expect(yes).toBe(1)
})

test('a class of eight that never was works a titration to the marks, on the real board, and is in no list', async ({
  browser,
}) => {
  test.setTimeout(180_000)
  const page = await instructor(browser)
  await page.goto('/practice')
  await page.getByLabel('practical').selectOption({ label: 'Acid in vinegar by aliquot' })
  await page.getByRole('button', { name: 'Rehearse' }).click()
  await expect(page.getByRole('note')).toContainText('This class is made up')
  const pace = page.getByRole('group', { name: 'rehearsal' })
  await expect(page.getByRole('button', { name: /^Group 8, volume of vinegar taken: 25\.00/ })).toBeVisible()
  await pace.getByRole('button', { name: 'pause' }).click()
  await expect(pace.getByRole('button', { name: 'paused' })).toHaveAttribute('aria-pressed', 'true')
  await look(page, 'rehearsal')
  await pace.getByRole('button', { name: '60×' }).click()
  await expect(pace.getByText('finished')).toBeVisible({ timeout: 120_000 })
  await page.getByRole('navigation', { name: 'places' }).getByRole('link', { name: 'Check' }).click()
  await expect(page.getByText('8 of 8 answered')).toBeVisible()
  await page.getByRole('link', { name: 'marks', exact: true }).click()
  await expect(page.getByRole('row', { name: /^Group 8/ })).toBeVisible()
  await page.goto('/shelf')
  await expect(page.getByRole('link', { name: /Epsom salt/ }).first()).toBeVisible()
  await expect(page.getByText('made-up class')).toHaveCount(0)
  await page.goto('/practice')
  await expect(page.getByText('8 groups, finished')).toBeVisible()
  await page.getByRole('button', { name: 'archive' }).click()
  await expect(page.getByText('8 groups, finished')).toHaveCount(0)
})
