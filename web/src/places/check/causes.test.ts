import { expect, it } from 'vitest'
import type { Cause } from '@/api'
import { causeWords } from './causes'

const cause: Cause = {
  kind: 'balance',
  name: 'Balance 2',
  relative: -0.0312,
  difference: -0.18,
  p: 0.006,
  p_corrected: 0.0241,
  told: true,
  groups: ['Beryl', 'Calcite'],
  tried: 4,
  cancels: false,
  same_groups: [],
}

it('says how far off, which way, how sure, and what to do', () => {
  expect(causeWords(cause, 'the yield')).toBe(
    'Balance 2 gives the yield 3.1 % lower (p 0.024, corrected for 4 tried): put a known mass on Balance 2.',
  )
  expect(causeWords({ ...cause, difference: 0.18, p_corrected: 0.0004 }, 'the yield')).toContain(
    '3.1 % higher (p < 0.001, corrected for 4 tried)',
  )
})

it('does not blame what cancels in a difference, however sure the offset is', () => {
  const words = causeWords({ ...cause, cancels: true, p_corrected: 1e-6 }, 'the yield')
  expect(words).toContain('it is not blamed')
  expect(words).not.toContain('put a known mass')
})

it('names what it cannot be told from', () => {
  expect(causeWords({ ...cause, same_groups: ['lesson 1', 'bottle A'] }, 'the yield')).toContain(
    'It cannot be told apart from lesson 1, bottle A',
  )
})
