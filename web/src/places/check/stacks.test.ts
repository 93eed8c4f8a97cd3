import { expect, it } from 'vitest'
import type { Verdict } from '@/api'
import { levelsOf, spectrumEnds, stacksOf, type Judged } from './stacks'

function judged(
  name: string,
  value: Verdict['value']['kind'],
  ratio: string,
  digits: Verdict['digits']['kind'] = 'right',
) {
  return {
    row: { name },
    verdict: {
      stands: value === 'right' ? (digits === 'right' ? 'right' : 'written') : 'wrong',
      value: { kind: value },
      unit: { kind: 'right' },
      digits: digits === 'right' ? { kind: 'right' } : { kind: digits, typed: 5, wanted: 3 },
      comparison: { ratio: Number(ratio), ratio_shown: ratio },
      diagnosis: { named: [], near: [] },
    },
  } as unknown as Judged
}

it('stacks equal wrong answers and puts them first', () => {
  const stacks = stacksOf([
    judged('Beryl', 'right', '1.00'),
    judged('Calcite', 'wrong', '0.488'),
    judged('Galena', 'right', '0.999'),
    judged('Olivine', 'right', '1.00', 'too-many'),
    judged('Jasper', 'wrong', '0.488'),
    judged('Feldspar', 'wrong', '13.7'),
  ])
  expect(stacks.map((s) => [s.words, s.ratio, s.judged.map((j) => j.row.name).join(' ')])).toEqual([
    ['wrong, cause unclear', '0.488', 'Calcite Jasper'],
    ['wrong, cause unclear', '13.7', 'Feldspar'],
    ['too many digits', '1.00', 'Olivine'],
    ['right', '1.00', 'Beryl Galena'],
  ])
})

it('stacks dots that would hide each other and leaves each at its true place', () => {
  expect(levelsOf([100, 101, 300, 102], 12)).toEqual([0, 1, 0, 2])
  // A chain of near neighbours: the third is clear of the first, so it stands on the line again.
  expect(levelsOf([100, 108, 116], 12)).toEqual([0, 1, 0])
  expect(levelsOf([], 12)).toEqual([])
})

it('shows every answer on the spectrum', () => {
  const [low, high] = spectrumEnds([1, 13.7, 0.488])
  expect(low).toBeLessThan(0.488)
  expect(high).toBeGreaterThan(13.7)
  // A negative or vanishing answer has no place on a ratio scale.
  expect(spectrumEnds([-1, 0])[0]).toBeGreaterThan(0)
})
