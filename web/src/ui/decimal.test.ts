import { readFileSync } from 'node:fs'
import { expect, it } from 'vitest'
import { numberOf, written } from './decimal'

it('reads what the server reads as a number, and nothing else', () => {
  const table = JSON.parse(readFileSync('../crates/measure/tests/numbers.json', 'utf8')) as [
    string,
    number | null,
  ][]
  expect(table.length).toBeGreaterThan(80)
  for (const [typed, value] of table) expect([typed, numberOf(typed) ?? null]).toEqual([typed, value])
})

interface Case {
  kind: string
  inputs: { text: string }
  expected: { reading: string; value?: number; may_reject?: boolean; may_take?: boolean }
}

it('takes from a field what a teacher would take, and asks back for the rest', () => {
  const cases = JSON.parse(readFileSync('../crates/compute/tests/reference/writing.json', 'utf8')) as Case[]
  const kinds = ['write_number', 'write_number_with_unit', 'write_ask', 'write_refuse']
  const asked = cases.filter((c) => kinds.includes(c.kind))
  expect(asked.length).toBeGreaterThan(140)
  for (const { inputs, expected } of asked) {
    const got = written(inputs.text)
    if (expected.reading === 'value') {
      if (expected.may_reject && got.kind === 'none') continue
      expect([inputs.text, got]).toEqual([inputs.text, expect.objectContaining({ value: expected.value })])
    } else if (!expected.may_take && got.kind === 'number') {
      // The page does not know the units; what is none stays with the number and is told by the server.
      expect([inputs.text, got.unit]).not.toEqual([inputs.text, ''])
    }
  }
})

it('asks whether a comma parts thousands, unless the scale has three decimals', () => {
  expect(written('6,240')).toEqual({ kind: 'asked', thousands: '6240', decimal: '6.240' })
  expect(written('6,240', 3)).toMatchObject({ kind: 'number', value: 6.24 })
  expect(written('0,125')).toMatchObject({ value: 0.125 })
  expect(written('1,2345')).toMatchObject({ value: 1.2345 })
  expect(written('24.35 mL')).toEqual({ kind: 'number', value: 24.35, number: '24.35', unit: 'mL' })
  expect(written('6,240 g')).toMatchObject({ kind: 'asked' })
})
