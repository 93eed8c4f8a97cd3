import { expect, test } from 'vitest'
import type { RunHead } from '@/api'
import { median, sideBySide } from './years'

const run = (over: Partial<RunHead>) =>
  ({
    id: 1,
    practical: 'epsom-salt',
    title: 'Second try',
    practical_title: 'Epsom salt',
    class: '11-Basalt',
    opened_at: Date.parse('2026-11-10T10:00:00Z'),
    strip: [30, 94],
    values: [62, 70],
    finds: 'percent yield in %',
    ...over,
  }) as RunHead

test('runs of one practical stand on one scale, and what finds something else does not', () => {
  const years = sideBySide([
    run({ id: 1 }),
    run({ id: 2, strip: [40, 110], opened_at: Date.parse('2027-11-10T10:00:00Z') }),
    run({ id: 3, finds: 'amount in mmol', strip: [0, 1] }),
    run({ id: 4, practical: 'vinegar', opened_at: Date.parse('2025-01-10T10:00:00Z') }),
  ])
  expect(years.map((y) => [y.practical, y.title, y.finds, y.low, y.high, y.runs.map((r) => r.id)])).toEqual([
    ['epsom-salt', 'Epsom salt', 'percent yield in %', 30, 110, [2, 1]],
    ['epsom-salt', 'Epsom salt', 'amount in mmol', 0, 1, [3]],
    ['vinegar', 'Epsom salt', 'percent yield in %', 30, 94, [4]],
  ])
})

test('the median of an even number lies between two, and of nothing there is none', () => {
  expect([median([3, 1, 2]), median([4, 1, 3, 2]), median([])]).toEqual([2, 2.5, undefined])
})
