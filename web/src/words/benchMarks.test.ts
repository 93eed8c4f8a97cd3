import { expect, it } from 'vitest'
import type { Advice, BenchMark, Doubt, Needed } from '@/api'
import { adviceWords, benchMarkName, benchMarkWords, benchSlipName, doubtWords, neededWords } from '.'

const mark = (found: BenchMark['found']): BenchMark => ({ marks: 1, most: 2, found })

it('says what marks at the bench were given for, and for what they were not', () => {
  const all = mark({ kind: 'recording', good: 4, of: 4 })
  expect([benchMarkName(all), benchMarkWords(all)]).toEqual([
    'recording',
    'all 4 readings with all their decimals',
  ])
  const words = (found: BenchMark['found']) => benchMarkWords(mark(found))
  expect(words({ kind: 'recording', good: 3, of: 4 })).toMatch(/^3 of 4 readings/)
  expect(words({ kind: 'agreement', agree: 0, nearly: 1, of: 1 })).toBe('0 of 1 agree as wanted, 1 nearly')
  expect(words({ kind: 'agreement', agree: 2, nearly: 0, of: 2 })).toBe('all 2 agree as wanted')
  expect(words({ kind: 'agreement', agree: 0, nearly: 0, of: 0 })).toBe('there are no repeats yet')
  expect(words({ kind: 'closeness', result: 'c', off_percent: '1.7' })).toBe('1.7 % off')
  // What would tell the accepted value is held back with it.
  expect(words({ kind: 'closeness', result: 'c', off_percent: null })).not.toMatch(/\d/)
})

it('says what each reason for a yield above theory would need', () => {
  const needs: Needed[] = [
    { kind: 'weighed', mass: '0.57 g', percent: '8.4' },
    { kind: 'taken', material: 'sulfuric acid', recorded: '25.0 mL', needed: '27.3 mL' },
    { kind: 'strength', material: 'sulfuric acid', stated: '1.00 mol/L', needed: '1.09 mol/L' },
  ]
  expect(needs.map(neededWords)).toEqual([
    '0.57 g (8.4 %) of what you weighed would have to be something else: water, wash liquid, a salt, the vessel',
    '27.3 mL of sulfuric acid taken, not 25.0 mL',
    'sulfuric acid of 1.09 mol/L, not 1.00 mol/L',
  ])
})

it('says what would follow, and that it cannot be', () => {
  const doubt: Doubt = {
    doubted: { kind: 'exchanged', one: 'acid', other: 'base' },
    limits: 'base',
    percent: '1090',
    feasible: false,
  }
  expect(doubtWords(doubt)).toBe(
    'If acid and base were swapped, base would limit and the yield would be 1090 % (impossible).',
  )
  expect(doubtWords({ ...doubt, limits: null, percent: '86.7', feasible: true })).toBe(
    'If acid and base were swapped, the yield would be 86.7 %.',
  )
})

const advice = (matter: Advice['matter']): Advice => ({ step: 0, standing: 'settled', matter })

it('tells a group whether a second crop is worth it, and how to get it', () => {
  expect(
    adviceWords(advice({ kind: 'second-crop', gain: '1.1 g', worth: '0.5 g', to: '2 mL', at: '20 °C' })),
  ).toBe(
    'The liquor still holds about 1.1 g: evaporate it to 2 mL, let it stand at 20 °C and filter once more.',
  )
  expect(adviceWords(advice({ kind: 'no-second-crop', gain: '0.1 g', worth: '0.5 g' }))).toContain(
    '0.1 g at most',
  )
})

it('has a name for every slip at the bench', () => {
  expect(benchSlipName('eye-above')).toBe('read from above')
  expect(benchSlipName('crucible-damp')).toBe('empty crucible damp')
})
