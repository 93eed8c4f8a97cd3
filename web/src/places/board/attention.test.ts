import { expect, it } from 'vitest'
import type { Advice, Board, Finding, Row, Verdict } from '@/api'
import { attention, due } from './attention'
import { columnsOf } from './columns'
import { merged } from './useBoard'

const finding: Finding = {
  kind: 'outside-range',
  low: 2.9,
  high: 3.1,
  fit: { kind: 'digits-swapped', reads: '2.91' },
}
const wrong = {
  stands: 'wrong',
  value: { kind: 'wrong' },
  unit: { kind: 'right' },
  digits: { kind: 'not-judged' },
  absurd: false,
  comparison: null,
  diagnosis: { named: [], near: [] },
} as Verdict
const right = {
  stands: 'right',
  value: { kind: 'right' },
  unit: { kind: 'right' },
  digits: { kind: 'right' },
  absurd: false,
  comparison: null,
  diagnosis: { named: [], near: [] },
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
    wrong_pins: null,
    steps_done: 0,
    clocks: [],
    deviations: [],
    help: null,
    uses: [],
    allotted: {},
    last_at: null,
    observations: {},
    readings: { m: entered },
    answers: verdict ? { y: { ...entered, text: '62', unit: '%' } } : {},
    outcome: {
      findings,
      standings: Object.fromEntries(Object.keys(findings).map((slot) => [slot, 'wrong'])),
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
      yield_findings: {},
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

it('puts a call for help first, and tells of the advice only what stands badly', () => {
  const told = (standing: Advice['standing']): Advice => ({
    step: 0,
    standing,
    judgement: null,
    matter: { kind: 'below-nothing', what: 'mass' },
  })
  const quiet = row(1, 'Beryl', {})
  const odd = row(2, 'Feldspar', {})
  odd.outcome.advice = [told('waiting'), told('settled'), told('wrong')]
  const calls = { ...row(3, 'Galena', {}), help: 'step 4' }
  const b = board([quiet, odd, calls])
  const notes = attention(b, columnsOf(b))
  expect(notes.map((n) => n.name)).toEqual(['Galena', 'Feldspar'])
  expect(notes[0]?.words).toBe('calls for help at step 4.')
})

it('lists the clocks of the class, what is over first, and none that was stopped', () => {
  const clocks = (name: string, of: Row['clocks']) => ({ ...row(1, name, {}), clocks: of })
  const b = {
    ...board([
      clocks('Beryl', [{ step: 1, since: 0, seconds: 600 }]),
      clocks('Galena', [{ step: 0, since: 0, seconds: 60 }]),
      clocks('Jasper', [{ step: 0, since: 0, seconds: 90, stopped: 80_000 }]),
      clocks('Olivine', [{ step: 0, since: 0 }]),
    ]),
    steps: ['Heat', 'Cool'],
  }
  const list = due(b, 120_000)
  expect(list.map((d) => [d.name, d.step, d.stands.kind])).toEqual([
    ['Galena', 'Heat', 'out'],
    ['Beryl', 'Cool', 'down'],
  ])
})
