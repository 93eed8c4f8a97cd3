import { describe, expect, it } from 'vitest'
import type { DigitsVerdict, UnitVerdict, ValueVerdict, Verdict } from '@/api'
import { answerState, answerWords, consequenceWords, findingWords, yieldWords } from '.'

const verdict = (
  value: ValueVerdict,
  unit: UnitVerdict = { kind: 'right' },
  digits: DigitsVerdict = { kind: 'right' },
): Verdict => ({
  value,
  unit,
  digits,
  comparison: null,
})

describe('an answer in words', () => {
  it('says what weighs most first: the number, then the unit, then the digits', () => {
    const many: DigitsVerdict = { kind: 'too-many', typed: 5, wanted: 3 }
    const inMol: UnitVerdict = { kind: 'wrong', fits: 'mol' }
    expect(answerWords(verdict({ kind: 'wrong' }, inMol, many))).toBe('wrong')
    expect(answerWords(verdict({ kind: 'right' }, inMol, many))).toBe('unit wrong: the number is in mol')
    expect(answerWords(verdict({ kind: 'right' }, { kind: 'missing' }, many))).toBe('unit missing')
    expect(answerWords(verdict({ kind: 'right' }, { kind: 'right' }, many))).toBe('too many digits')
    expect(answerWords(verdict({ kind: 'carried-forward', origins: ['m_theory'] }))).toBe(
      'right with their own earlier value',
    )
  })

  it('has the state of its worst part, and never a worse one for digits than doubtful', () => {
    expect(answerState(verdict({ kind: 'right' }))).toBe('settled')
    expect(answerState(verdict({ kind: 'carried-forward', origins: [] }))).toBe('settled')
    expect(
      answerState(verdict({ kind: 'right' }, { kind: 'right' }, { kind: 'too-few', typed: 1, wanted: 3 })),
    ).toBe('doubtful')
    expect(answerState(verdict({ kind: 'right' }, { kind: 'wrong', fits: 'g' }))).toBe('wrong')
    expect(answerState(verdict({ kind: 'not-yet', missing: ['m_dish'] }))).toBe('waiting')
    expect(answerState(verdict({ kind: 'too-few-digits' }))).toBe('doubtful')
  })
})

describe('findings and consequences in words', () => {
  it('offers the one slip of writing that would fit', () => {
    const outside = { kind: 'outside-range', low: 2.9, high: 3.1 } as const
    expect(findingWords({ ...outside, fit: { kind: 'digits-swapped', reads: '2.91' } })).toContain(
      'Are two digits swapped? 2.91 would fit.',
    )
    expect(findingWords(outside)).toBe('Expected between 2.9 and 3.1. Look again, or confirm it.')
    expect(findingWords({ kind: 'decimals', expected: 2, typed: 1 })).toContain('A zero at the end counts')
    expect(findingWords({ kind: 'decimals', expected: 2, typed: 3 })).not.toContain(
      'A zero at the end counts',
    )
    expect(yieldWords({ kind: 'damp', excess: '0.57' })).toBe(
      '0.57 g above theory: damp? Dry and weigh again.',
    )
  })

  it('warns near the edge and not far from it', () => {
    const excess = {
      kind: 'in-excess',
      material: 'carbonate',
      symbol: 'carbonate',
      percent: '24',
      low: '19',
      high: '28',
      enough: '2.43 g',
    } as const
    expect(consequenceWords({ ...excess, near_edge: true }).body).toContain('near the edge')
    expect(consequenceWords({ ...excess, near_edge: false }).body).not.toContain('near the edge')
  })
})
