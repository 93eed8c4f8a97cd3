import { expect, test } from '@playwright/test'
import { group, keypad, look } from './people'

test('a balance that speaks is read with one tap, and says so; it can still be typed', async ({
  browser,
}) => {
  const galena = await group(browser, 'Galena', '553943')
  await galena.goto('/bench/9')
  await galena.getByRole('radio', { name: 'Balance 1' }).click()
  const take = galena.getByRole('button', { name: /^Take it from Balance 1/ })
  await expect(take).toBeEnabled()
  await look(galena)
  await take.click()
  await galena.getByRole('button', { name: 'Keep' }).click()
  await expect(galena.getByText(/sent by Balance 1/)).toBeVisible()

  await galena.getByRole('button', { name: 'Correct it' }).click()
  await keypad(galena, '53.11')
  await galena.getByRole('button', { name: 'Keep' }).click()
  await expect(galena.getByText(/· Balance 1/)).toBeVisible()
  await expect(galena.getByText(/sent by Balance 1/)).toHaveCount(0)
})
