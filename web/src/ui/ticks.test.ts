import { expect, it } from 'vitest'
import { decimalsOf, niceStep, ticks } from './ticks'

it('graduates in ones, twos and fives', () => {
  expect(niceStep(0, 1, 10)).toBeCloseTo(0.1)
  expect(niceStep(2.8, 3.2, 8)).toBeCloseTo(0.05)
  expect(niceStep(0, 130, 10)).toBe(20)
})

it('puts ticks at multiples of the step and nowhere else', () => {
  const at = ticks(2.85, 3.15, 0.1, 5)
  expect(at.map((t) => t.value.toFixed(1))).toEqual(['2.9', '3.0', '3.1'])
  expect(at.map((t) => t.long)).toEqual([false, true, false])
  expect(ticks(0, 1, 1e-9, 5)).toEqual([])
})

it('knows how many decimals a step needs', () => {
  expect([0.05, 0.1, 1, 20].map(decimalsOf)).toEqual([2, 1, 0, 0])
})
