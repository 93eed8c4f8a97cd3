import { expect, it } from 'vitest'
import type { Board, Finding, Row, Verdict } from '@/api'
import { attention } from './attention'
import { columnsOf } from './columns'
import { merged } from './useBoard'

const finding: Finding = {
  kind: 'outside-range',
  low: 2.9,
  high: 3.1,
  fit: { kind: 'digits-swapped', reads: '2.91' },
}
const wrong = {
  value: { kind: 'wrong' },
  unit: { kind: 'right' },
  digits: { kind: 'not-judged' },
  comparison: null,
} as Verdict
const right = {
  value: { kind: 'right' },
  unit: { kind: 'right' },
  digits: { kind: 'right' },
  comparison: null,
} as Verdict

function row(group: number, name: string, findings: Record<string, Finding[]>, verdict?: Verdict): Row {
  const entered = {
    id: 'x',
    text: '9.21',
    unit: 'g',
    at: 0,
    about: false,
    steps: [],
    flags: [],
    confirmed: false,
    struck: [],
  }
  return {
    group,
    name,
    pin: '0000',
    claimed: true,
    steps_done: 0,
    clocks: [],
    deviations: [],
    help: null,
    uses: [],
    last_at: null,
    observations: {},
    readings: { m: entered },
    answers: verdict ? { y: { ...entered, text: '62', unit: '%' } } : {},
    outcome: {
      findings,
      results: [
        {
          name: 'y',
          state: { kind: 'value', text: '62.0', unit: '%', value: 62, expanded: null, budget: [] },
        },
      ],
      verdicts: verdict ? { y: verdict } : {},
      advice: [],
      delivered: {},
      limiting: null,
      yield_finding: null,
    },
  } as unknown as Row
}

const board = (rows: Row[]) =>
  ({
    rows,
    readings: [
      {
        symbol: 'm',
        reading: 'm',
        label: 'mass',
        short: 'carbonate',
        unit: 'g',
        range: [2.9, 3.1],
        decimals: 2,
      },
    ],
    results: [{ name: 'y', label: 'percent yield', unit: '%', asked: true }],
  }) as unknown as Board

it('lists what wants a look in bench order, and nothing else', () => {
  const b = board([
    row(1, 'Beryl', {}, right),
    row(2, 'Haematite', { m: [finding] }),
    row(3, 'Feldspar', {}, wrong),
  ])
  const notes = attention(b, columnsOf(b))
  expect(notes.map((n) => [n.name, n.key, n.tone])).toEqual([
    ['Haematite', 'm', 'wrong'],
    ['Feldspar', 'y', 'wrong'],
  ])
  expect(notes[0]?.words).toContain('2.91 would fit')
})

it('replaces changed rows where they stand', () => {
  const old = [row(1, 'Beryl', {}), row(2, 'Galena', {})]
  const changed = row(2, 'Galena', { m: [finding] })
  const after = merged(old, [changed])
  expect(after.map((r) => r.name)).toEqual(['Beryl', 'Galena'])
  expect(after[1]).toBe(changed)
  expect(after[0]).toBe(old[0])
})
