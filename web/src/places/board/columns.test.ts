import { expect, it } from 'vitest'
import type { Board, Finding, ReadingSpec, Row } from '@/api'
import { cellOf, columnsOf, frontOf, type Column } from './columns'
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

/** A titration of three trials, each with its mass, and a series of forty points. */
function titration(rows: Row[]): Board {
  const spec = (reading: string, n: number, axis: string, delivers = false): ReadingSpec =>
    ({
      symbol: `${reading}[${n}]`,
      reading,
      label: `${reading}, ${axis} ${n}`,
      short: `${reading} ${n}`,
      unit: 'mL',
      axis,
      open_ended: axis === 'point',
      delivers,
      range: [0, 50],
      decimals: 2,
    }) as unknown as ReadingSpec
  const trials = [1, 2, 3].flatMap((n) => [
    spec('m', n, 'trial'),
    spec('V_start', n, 'trial'),
    spec('V_end', n, 'trial', true),
  ])
  const points = Array.from({ length: 40 }, (_, i) => spec('T', i + 1, 'point'))
  return { rows, readings: [...trials, ...points], results: [] } as unknown as Board
}

function titrating(
  texts: Record<string, string>,
  delivered: Record<string, string>,
  findings: Record<string, Finding[]> = {},
  confirmed = false,
): Row {
  const entered = (text: string) => ({
    id: '',
    text,
    unit: 'mL',
    at: 0,
    steps: [],
    flags: [],
    confirmed,
    struck: [],
  })
  const readings = Object.fromEntries(Object.entries(texts).map(([k, v]) => [k, entered(v)]))
  const standings = Object.fromEntries(Object.keys(findings).map((slot) => [slot, 'wrong']))
  return { readings, answers: {}, outcome: { findings, standings, delivered, results: [] } } as unknown as Row
}

it('gives a trial one column with its titre, and leaves out those that nobody has begun', () => {
  const done = titrating(
    { 'm[1]': '0.50', 'V_start[1]': '0.10', 'V_end[1]': '25.20' },
    { 'V_end[1]': '25.10' },
  )
  const half = titrating({ 'm[2]': '0.50', 'T[1]': '20.0', 'T[2]': '21.5' }, {})
  const board = titration([done, half])
  const [first, second, series, ...more] = columnsOf(board)
  expect(more).toEqual([])
  if (!first || !second || !series) throw new Error('three columns')
  expect([first.label, second.label]).toEqual(['titre, trial 1', 'titre, trial 2'])
  expect(cellOf(done, first)).toMatchObject({ text: '25.10', partly: false })
  expect(cellOf(done, second)).toEqual({ kind: 'empty' })
  expect(cellOf(half, second)).toMatchObject({ partly: true })
  // Of a series the last point stands for all.
  expect(cellOf(half, series)).toMatchObject({ text: '21.5' })
})

it('tells what is odd about any reading of a trial, until it was looked at again', () => {
  const texts = { 'm[1]': '0.50', 'V_start[1]': '30.00', 'V_end[1]': '25.20' }
  const odd: Record<string, Finding[]> = {
    'V_end[1]': [{ kind: 'below-its-partner', partner: 'start', by: '4.80' }],
  }
  const doubtful = titrating(texts, {}, odd)
  const [column] = columnsOf(titration([doubtful]))
  if (!column) throw new Error('a column')
  expect(cellOf(doubtful, column)).toMatchObject({ state: 'wrong' })
  expect(cellOf(titrating(texts, {}, odd, true), column)).toMatchObject({ state: 'settled', findings: [] })
})

it('scales a result over the middles of its recipes, and gives a reason in words no column', () => {
  const row = (recipe: string | null, value: number) =>
    ({
      readings: {},
      answers: {},
      allotted: { assignment: recipe },
      outcome: { results: [{ name: 'm', state: { kind: 'value', value, text: String(value), unit: 'g' } }] },
    }) as unknown as Row
  const of = (rows: Row[]) => {
    const results = [
      { name: 'm', label: 'm', unit: 'g', asked: true, answer: 'number' },
      { name: 'why', label: 'why', unit: '1', asked: true, answer: 'words' },
    ]
    const [column, ...more] = columnsOf({ readings: [], results, rows } as unknown as Board)
    expect(more).toHaveLength(0)
    return [column?.low, column?.high]
  }
  expect(of([row('A', 0.7), row('B', 1), row('A', 0.72), row('A', 0.71)])).toEqual([0.71 * 0.9, 1.1])
  // One blunder among them does not stretch it; without any value it is still a scale.
  expect(of([row(null, 0.7), row(null, 0.7), row(null, 70)])).toEqual([0.7 * 0.9, 0.7 * 1.1])
  expect(of([])).toEqual([0.9, 1.1])
})
