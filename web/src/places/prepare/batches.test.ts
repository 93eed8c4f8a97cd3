import { expect, test } from 'vitest'
import type { PrepareLine } from '@/api'
import { batches } from './batches'

const run = (
  nr: number,
  name: string,
  ...solutions: [name: string, form: string, mL: number, ready?: boolean][]
) =>
  ({
    run: nr,
    class: name,
    solutions: solutions.map(([of, form, provide, ready = false], i) => ({
      symbol: `s${i}`,
      name: of,
      form,
      provide,
      ready,
    })),
  }) as PrepareLine

test('what two classes need is one batch; another strength, and what is made already, is not', () => {
  const week = [
    run(7, '4B', ['sodium hydroxide', '0.100 mol/L', 960], ['silver nitrate', '0.1 mol/L', 7]),
    run(3, '5A', ['sodium hydroxide', '0.100 mol/L', 450], ['sodium hydroxide', '2.0 mol/L', 80]),
    run(9, '5C', ['silver nitrate', '0.1 mol/L', 7, true], ['sodium hydroxide', '0.100 mol/L', 90]),
  ]
  expect(batches(week)).toEqual([
    {
      name: 'sodium hydroxide',
      form: '0.100 mol/L',
      provide: 1500,
      run: 7,
      symbol: 's0',
      classes: [
        { name: '4B', provide: 960 },
        { name: '5A', provide: 450 },
        { name: '5C', provide: 90 },
      ],
    },
  ])
  expect(batches(week.slice(2))).toEqual([])
})
