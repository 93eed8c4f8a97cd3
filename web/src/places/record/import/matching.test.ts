import { expect, test } from 'vitest'
import type { Board } from '@/api'
import { address, choicesOf, NAMES, NOTHING, proposed } from './matching'

const board = {
  readings: [
    { symbol: 'm_dish', label: 'dish, empty', unit: 'g' },
    { symbol: 'V_end[2]', label: 'burette at the end, trial 2', unit: 'mL' },
  ],
  results: [
    { name: 'm_theory', label: 'theoretical yield', unit: 'g', asked: true },
    { name: 'extent', label: 'extent', unit: 'mmol', asked: false },
  ],
} as unknown as Board
const choices = choicesOf(board)

test('a column is proposed by its whole head or by what was said before, and never by a part of it', () => {
  expect(choices.map((c) => c.key)).toEqual(['reading m_dish', 'reading V_end[2]', 'answer m_theory'])
  const head = ['Gruppe', 'Dish, empty / g', 'burette', 'dish, empty', 'theory']
  expect(proposed(head, choices, {})).toEqual([NAMES, 'reading m_dish', NOTHING, NOTHING, NOTHING])
  const before = { burette: 'reading V_end[2]', Gruppe: NOTHING, theory: NAMES }
  expect(proposed(head, choices, before)).toEqual([
    NOTHING,
    'reading m_dish',
    'reading V_end[2]',
    NOTHING,
    NAMES,
  ])
})

test('a place that is gone since is no longer proposed', () => {
  expect(proposed(['group', 'x'], choices, { x: 'reading m_gone' })).toEqual([NAMES, NOTHING])
})

test('cells are called as a spreadsheet calls them', () => {
  expect([address(0, 0), address(6, 2), address(9, 25), address(0, 26), address(0, 701)]).toEqual([
    'A1',
    'C7',
    'Z10',
    'AA1',
    'ZZ1',
  ])
})
