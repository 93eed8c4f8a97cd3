import { expect, test } from '@playwright/test'
import { instructor } from './people'

test('a group’s page says what was read, what was struck and what was said of their sums', async ({
  browser,
}) => {
  const page = await instructor(browser)
  await page.goto('/record')
  await page.getByLabel('find a run').fill('gneiss zinc')
  await expect(page.getByText('Nothing holds “gneiss zinc”.')).toBeVisible()
  await page.getByLabel('find a run').fill('basalt 2026')
  await expect(page.getByRole('heading', { level: 2 })).toHaveText([
    'Epsom salt from basic magnesium carbonate',
  ])
  await page.getByRole('link', { name: '11-Basalt' }).click()
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

  // On paper it is whole: nothing is wider than the sheet.
  await page.emulateMedia({ media: 'print' })
  await page.setViewportSize({ width: 720, height: 1000 })
  const cut = await page.evaluate(() => document.documentElement.scrollWidth > window.innerWidth + 1)
  expect(cut).toBe(false)
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
