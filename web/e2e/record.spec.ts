import { expect, test } from '@playwright/test'
import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs'
import { instructor } from './people'

test('a group’s page says what was read, what was struck and what was said of their sums', async ({
  browser,
}) => {
  const page = await instructor(browser)
  await page.goto('/record')
  await page.getByLabel('find').fill('gneiss zinc')
  await expect(page.getByText('Nothing has “gneiss zinc” in it.')).toBeVisible()
  await page.getByLabel('find').fill('basalt epsom')
  await expect(page.getByRole('heading', { level: 2 })).toHaveText(['runs'])
  await page.getByRole('link', { name: '11-Basalt, Epsom salt from basic magnesium carbonate' }).click()
  await expect(page.getByText('version 1 of the practical')).toBeVisible()

  // What the page says is what the record holds: every digit, every value that was struck, every mark.
  const board = await page.evaluate(
    async () => (await fetch('/api/v1/runs/1/board')).json() as Promise<Board>,
  )
  const told = board.rows.find((r) => Object.values(r.readings).some((e) => e.struck.length > 0))
  expect(told).toBeDefined()
  if (!told) return
  await page.getByRole('link', { name: told.name, exact: true }).click()
  const read = page.getByRole('table', { name: 'readings in bench order' })
  for (const entered of Object.values(told.readings)) {
    await expect(read).toContainText(entered.text)
    for (const struck of entered.struck)
      await expect(read.locator('s', { hasText: struck.text })).toBeVisible()
  }
  await expect(page.getByRole('heading', { name: 'percent yield' })).toBeVisible()

  // What comes out of a printer says the same: every digit that was typed, what was struck, and whose page it is.
  const printed = await textOf(await page.pdf({ format: 'A4' }))
  for (const entered of Object.values(told.readings)) {
    for (const text of [entered.text, ...entered.struck.map((s) => s.text)]) expect(printed).toContain(text)
  }
  expect(printed).toContain(told.name)
  expect(printed).not.toContain('sign out')
})

/** The words of a printed page, in the order in which they were set. */
async function textOf(pdf: Buffer): Promise<string> {
  const document = await getDocument({ data: new Uint8Array(pdf), verbosity: 0 }).promise
  const words: string[] = []
  for (let n = 1; n <= document.numPages; n += 1) {
    const content = await (await document.getPage(n)).getTextContent()
    words.push(...content.items.map((item) => ('str' in item ? item.str : '')))
  }
  return words.join(' ').replaceAll(/\s+/g, ' ')
}

test('a class from a spreadsheet: two bad cells keep it out, and mended it is taken', async ({ browser }) => {
  const page = await instructor(browser)
  await page.goto('/record/2/import')
  const cells = (third: string, name: string) => `group\tm\nLarch\t0,512\n${name}\t${third}\n`
  const board = await page.evaluate(
    async () => (await fetch('/api/v1/runs/2/board')).json() as Promise<Titrating>,
  )
  const [first, second] = board.rows.map((r) => r.name)
  const place = board.readings.find((r) => board.rows.every((row) => row.readings[r.symbol] === undefined))
  expect(place).toBeDefined()
  const paste = async (text: string) => {
    await page.getByLabel('or cells pasted from one').fill(text)
    await page.getByRole('button', { name: 'Show the cells' }).click()
    await page.getByLabel('column B, m').selectOption({ label: `${place?.label}, ${place?.unit}` })
    await page.getByRole('button', { name: 'Check the cells' }).click()
  }
  await paste(
    cells('five', 'Nobody')
      .replace('Larch', first ?? '')
      .replace('0,512', 'x'),
  )
  await expect(page.getByRole('alert')).toContainText('2 cells cannot be taken; nothing was.')
  await expect(page.getByRole('alert')).toContainText('A3 nobody in this run is called “Nobody”')
  const typical = place?.range.reduce((sum, end) => sum + end / 2, 0).toFixed(place.decimals) ?? ''
  await paste(
    cells(typical.replace('.', ','), second ?? '')
      .replace('Larch', first ?? '')
      .replace('0,512', typical),
  )
  await page.getByRole('button', { name: 'Take 2 values' }).click()
  await expect(page.getByText('Taken: 2 new.')).toBeVisible()
})

interface Titrating {
  rows: { name: string; readings: Record<string, unknown> }[]
  readings: { symbol: string; label: string; unit: string; range: number[]; decimals: number }[]
}

test('what was signed shows what came later, and the note waits for the next class', async ({ browser }) => {
  const page = await instructor(browser)
  await page.goto('/record/1')
  await page.getByRole('button', { name: 'Sign the class’s page' }).click()
  await expect(page.getByText(/R\. Ashdown, .* record [0-9a-f]{8}/)).toBeVisible()
  await page.getByRole('button', { name: 'write a note' }).click()
  await page.getByLabel('note for next time').fill('Start the hot plates before the bell.')
  await page.getByRole('button', { name: 'Save' }).click()
  await expect(page.getByText('Start the hot plates before the bell.')).toBeVisible()

  // A reading is corrected afterwards: the signature stays, and says so.
  await page.goto('/board/1/groups/1')
  await page.getByRole('button', { name: 'edit mass of the dish with dry crystals' }).click()
  await page.getByRole('textbox', { name: 'why' }).fill('read from the paper sheet')
  await page
    .getByRole('textbox', { name: /value|text|mass/ })
    .first()
    .fill('51.74')
  await page.getByRole('button', { name: 'Correct it' }).click()
  await expect(page.getByText('read from the paper sheet').first()).toBeVisible()
  await page.goto('/record/1')
  await expect(page.getByText('1 later entry')).toBeVisible()

  await page.getByRole('button', { name: 'rename this run' }).click()
  await page.getByRole('textbox', { name: 'rename this run' }).fill('Epsom salt, first try')
  await page.getByRole('button', { name: 'Save' }).click()
  await expect(page.getByRole('heading', { level: 1, name: 'Epsom salt, first try' })).toBeVisible()
  await page.goto('/record?q=hot+plates')
  await expect(page.getByRole('region', { name: 'notes for next time' })).toContainText(
    'Start the hot plates',
  )
})

test('two years stand on one scale, a class can be left out, and what is archived is out of the way', async ({
  browser,
}) => {
  const page = await instructor(browser)
  await page.goto('/record')
  await page.evaluate(async () => {
    await fetch('/api/v1/runs', {
      method: 'POST',
      headers: { 'content-type': 'application/json', 'x-keen-beaker': '1' },
      body: JSON.stringify({ practical: 'strontium-sulfate', class: '10-Marl', groups: [{ name: 'Talc' }] }),
    })
  })
  await page.reload()
  const years = page.getByRole('region', { name: 'Which one runs out? Strontium sulfate in two recipes' })
  await expect(years.getByRole('listitem')).toHaveCount(2)
  await years.getByRole('button', { name: 'leave 10-Slate out' }).click()
  await expect(years.getByRole('listitem')).toHaveCount(1)
  await years.getByRole('button', { name: '1 left out: show all' }).click()

  await years.getByRole('link', { name: '10-Slate' }).click()
  await page.getByRole('button', { name: 'archive', exact: true }).click()
  await expect(page.getByText('nothing in it has changed')).toBeVisible()
  await page.goto('/record')
  await expect(years.getByRole('listitem')).toHaveCount(1)
  await years.getByRole('link', { name: '10-Marl' }).click()
  await page.getByRole('button', { name: 'delete this run' }).click()
  await page.getByRole('button', { name: 'Delete this run' }).click()
  await expect(page.getByRole('heading', { level: 1, name: 'The record' })).toBeVisible()
  await expect(years).toHaveCount(0)
  await page.getByLabel('show 1 archived run').check()
  await expect(years.getByRole('link', { name: '10-Slate' })).toBeVisible()
})

test('a backup is made, tried and put back; a forgotten passphrase is replaced', async ({ browser }) => {
  const page = await instructor(browser)
  await page.goto('/account')
  await page.getByRole('button', { name: 'new passphrase for O. Fairlead' }).click()
  await page.getByRole('textbox', { name: 'new passphrase for O. Fairlead' }).fill('lanterns over the weir')
  await page.getByRole('button', { name: 'Set it' }).click()
  await expect(page.getByText('Tell O. Fairlead')).toBeVisible()

  await page.goto('/record/keeping')
  const backups = page.getByRole('button', { name: /^restore the backup/ })
  await expect(page.getByText('One is made every day.')).toBeVisible()
  const before = await backups.count()
  await page.getByRole('button', { name: 'Back up now' }).click()
  // The day's own may have been made meanwhile.
  await expect.poll(() => backups.count()).toBeGreaterThan(before)
  await page.getByRole('button', { name: 'Check the whole record' }).click()
  await expect(page.getByText('The record is whole')).toBeVisible()

  await page.goto('/shelf/classes')
  await page.getByLabel('a new class').fill('11-Shale')
  await page.getByRole('button', { name: 'Create class' }).click()
  await expect(page.getByRole('heading', { name: '11-Shale' })).toBeVisible()
  await page.goto('/record/keeping')
  await backups.first().click()
  await page.getByRole('button', { name: /^Restore / }).click()
  await page.getByLabel('Your name').fill('O. Fairlead')
  await page.getByLabel('Your passphrase').fill('lanterns over the weir')
  await page.getByRole('button', { name: 'Open the desk' }).click()
  await expect(page.getByRole('heading', { level: 1 })).toContainText(/shelf|under way|began today/)
  await page.goto('/shelf/classes')
  await expect(page.getByRole('heading', { level: 1, name: 'Classes' })).toBeVisible()
  await expect(page.getByText('11-Shale')).toHaveCount(0)
})

interface Board {
  rows: { name: string; readings: Record<string, { text: string; struck: { text: string }[] }> }[]
}

test('a workbook is downloaded with the names only where they are wanted', async ({ browser }) => {
  const page = await instructor(browser)
  await page.goto('/check/2/marks')
  await page.getByRole('button', { name: 'download' }).click()
  await page.getByLabel('decimal comma, semicolons between columns').check()
  const waiting = page.waitForEvent('download')
  await page.getByRole('link', { name: 'readings' }).click()
  const download = await waiting
  expect(download.suggestedFilename()).toBe('sodium-hydroxide-standard-run-2-readings.csv')
  await expect(page.getByRole('link', { name: 'XLSX' })).toHaveAttribute('href', /names=false/)
  await page.getByLabel('with names of people').check()
  await expect(page.getByRole('link', { name: 'XLSX' })).toHaveAttribute('href', /names=true/)
})
