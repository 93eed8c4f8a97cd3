import { describe, expect, it } from 'vitest'
import type { Consequence, DigitsVerdict, Stands, UnitVerdict, ValueVerdict, Verdict } from '@/api'
import type { StateKind } from '@/ui'
import { answerState, answerWords, consequenceWords, findingWords, yieldWords } from '.'

const verdict = (
  value: ValueVerdict,
  unit: UnitVerdict = { kind: 'right' },
  digits: DigitsVerdict = { kind: 'right' },
  stands: Stands = 'right',
): Verdict => ({
  stands,
  value,
  unit,
  digits,
  absurd: false,
  comparison: null,
  diagnosis: { named: [], near: [] },
})

describe('an answer in words', () => {
  it('says what weighs most first: the number, then the unit, then the digits', () => {
    const many: DigitsVerdict = { kind: 'too-many', typed: 5, wanted: 3 }
    const inMol: UnitVerdict = { kind: 'wrong', fits: 'mol' }
    expect(answerWords(verdict({ kind: 'wrong' }, inMol, many))).toBe('wrong, cause unclear')
    expect(answerWords(verdict({ kind: 'right' }, inMol, many))).toBe('unit wrong: the number is in mol')
    expect(answerWords(verdict({ kind: 'right' }, { kind: 'missing' }, many))).toBe('unit missing')
    expect(answerWords(verdict({ kind: 'right' }, { kind: 'right' }, many))).toBe('too many digits')
    expect(answerWords(verdict({ kind: 'carried-forward', origins: ['m_theory'] }))).toBe(
      'right, using their earlier answer',
    )
  })

  it.each<[ValueVerdict, Stands, boolean, StateKind]>([
    [{ kind: 'right' }, 'right', false, 'settled'],
    [{ kind: 'carried-forward', origins: [] }, 'carried-forward', false, 'settled'],
    // Right with an earlier value, and no result can be so: they could have seen it.
    [{ kind: 'carried-forward', origins: [] }, 'carried-forward', true, 'doubtful'],
    [{ kind: 'right' }, 'written', false, 'doubtful'],
    [{ kind: 'wrong' }, 'wrong', true, 'wrong'],
    [{ kind: 'not-yet', missing: ['m_dish'] }, 'open', false, 'waiting'],
    [{ kind: 'to-read' }, 'open', false, 'waiting'],
    [{ kind: 'too-few-digits' }, 'open', false, 'doubtful'],
  ])('%o that stands as %s (absurd: %s) is %s', (value, stands, absurd, state) => {
    const right = { kind: 'right' } as const
    expect(answerState({ ...verdict(value, right, right, stands), absurd })).toBe(state)
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

describe('what a plan tells', () => {
  it.each<[Consequence, string]>([
    [
      {
        kind: 'in-excess',
        material: 'zinc',
        percent: '-20',
        low: '-21',
        high: '-19',
        enough: '1.87 g',
        near_edge: true,
      },
      '1.87 g of zinc would be just enough: it falls short by 20 %.',
    ],
    [
      {
        kind: 'flip',
        material: 'acid',
        what: 'strength',
        at: '1.24 mol/L',
        range: '1.0 to 1.3 mol/L',
        inside: true,
      },
      'at 1.24 mol/L another reagent limits, and the strength of acid is only known as 1.0 to 1.3 mol/L.',
    ],
    [
      {
        kind: 'dissolves',
        material: 'salt',
        amount: '1.52 g',
        water: '1 mL',
        at: '20 °C',
        smallest: '1.1 mL',
        fits: false,
      },
      '1.52 g of salt does not dissolve in 1 mL at 20 °C; it takes 1.1 mL.',
    ],
    [
      { kind: 'basis-open', material: 'acid', written: '10 %', in_volume: '1.02 mol/L', in_mass: null },
      'acid, 10 %: 1.02 mol/L as w/v; w/w needs a density. Until you say which, w/v is assumed.',
    ],
    [
      { kind: 'together', danger: 'iodine-and-ammonia', one: 'iodine', other: 'ammonia', step: 'Mix' },
      'iodine with ammonia makes a solid that explodes at a touch.',
    ],
    [
      { kind: 'never-recorded', what: 'container', of: 'Epsom salt' },
      'the empty vessel: the mass of Epsom salt would be that of both.',
    ],
    [
      { kind: 'too-full', vessel: 'beaker', capacity: '30 mL', volume: '25.0 mL', only_for_heat: true },
      '25.0 mL in the beaker of 30 mL: more than two thirds, and it is heated or foams.',
    ],
    [
      { kind: 'critical', result: 'the yield', readings: [{ label: 'the dish', percent: '62' }] },
      'most of the uncertainty of the yield comes from the dish (62 %).',
    ],
    [
      { kind: 'time', minutes: [40, 60], waits: [], visits: 1 },
      '40 to 60 min at the bench in 1 lesson; no waits.',
    ],
  ])('%o', (consequence, sentence) => {
    expect(consequenceWords(consequence).body).toBe(sentence)
  })

  it('says first what it is about, and another word where the answer is no', () => {
    const water = {
      kind: 'dissolves',
      material: 'salt',
      amount: '1 g',
      water: '1 mL',
      at: '20 °C',
      smallest: '1 mL',
    } as const
    expect(consequenceWords({ ...water, fits: true }).head).toBe('Dissolves:')
    expect(consequenceWords({ ...water, fits: false }).head).toBe('Does not dissolve:')
  })
})
