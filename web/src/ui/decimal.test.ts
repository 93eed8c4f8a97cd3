import { readFileSync } from 'node:fs'
import { expect, it } from 'vitest'
import { numberOf } from './decimal'

it('reads what the server reads as a number, and nothing else', () => {
  const table = JSON.parse(readFileSync('../crates/measure/tests/numbers.json', 'utf8')) as [
    string,
    number | null,
  ][]
  expect(table.length).toBeGreaterThan(40)
  for (const [typed, value] of table) expect([typed, numberOf(typed) ?? null]).toEqual([typed, value])
})
