import { expect, it } from 'vitest'
import type { Row } from '@/api'
import { frontOf, type Column } from './columns'
import { merged } from './useBoard'

const reading = (key: string): Column => ({
  kind: 'reading',
  key,
  slots: [key],
  titre: false,
  label: key,
  short: key,
  unit: 'g',
  low: 0,
  high: 2,
  band: [0.5, 1.5],
  decimals: 2,
})
const columns: Column[] = [
  reading('a'),
  reading('b'),
  { kind: 'result', key: 'r', label: 'r', unit: '%', asked: true, low: 0, high: 1 },
]

function row(group: number, readings: string[], answers: string[]): Row {
  const entered = { id: '', text: '1.00', unit: 'g', at: 0, about: false, struck: [] }
  const of = (keys: string[]) => Object.fromEntries(keys.map((k) => [k, entered]))
  return { group, readings: of(readings), answers: of(answers) } as unknown as Row
}

it('runs the class front through the last filled cell, and dents at a missing reading', () => {
  expect(frontOf(row(1, [], []), columns)).toBe(0)
  expect(frontOf(row(1, ['a'], []), columns)).toBe(1)
  expect(frontOf(row(1, ['a', 'b'], ['r']), columns)).toBe(3)
  // An answer without its reading does not carry the front past the gap.
  expect(frontOf(row(1, ['a'], ['r']), columns)).toBe(1)
})

it('never reorders rows when one changes', () => {
  const old = [row(1, [], []), row(2, [], []), row(3, [], [])]
  const next = merged(old, [row(2, ['a'], [])])
  expect(next.map((r) => r.group)).toEqual([1, 2, 3])
  expect(Object.keys(next[1]?.readings ?? {})).toEqual(['a'])
  expect(next[0]).toBe(old[0])
})
