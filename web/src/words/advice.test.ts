import { describe, expect, it } from 'vitest'
import type { Advice, Deviation, Matter } from '@/api'
import { adviceWords, deviationWords } from '.'

const advice = (matter: Matter): Advice => ({ step: 0, standing: 'waiting', judgement: null, matter })
const figure = (text: string) => ({ value: Number.parseFloat(text), unit: text.split(' ')[1] ?? '1', text })
const titre = (trial: number, text: string, agrees: boolean) => ({ trial, text, agrees, rough: trial === 1 })
const titres = [titre(1, '21.50', false), titre(2, '21.10', true), titre(4, '21.15', true)]

const oneMore = {
  kind: 'one-more',
  titres: [] as ReturnType<typeof titre>[],
  closest: null,
  agreeing: 0,
  wanted: 2,
  limit: figure('0.10 mL'),
} as const

describe('what is told at the bench', () => {
  it.each<[string, Matter, string]>([
    [
      'names the trials that agree, not the rough one',
      { kind: 'titres-agree', titres, range: figure('0.05 mL'), limit: figure('0.10 mL'), drift: false },
      'Titres 2 and 4 agree within 0.05 mL: 2 of 2 used. No more are needed.',
    ],
    [
      'asks for a second one before there is anything to compare',
      { ...oneMore, left: 5, drift: false },
      'One more: two must agree within 0.10 mL.',
    ],
    [
      'has no place for one more, and says so; titres that move one way are told',
      { ...oneMore, left: 0, drift: true },
      'Not enough of them agree, and there is no room for another: show your instructor. They keep moving one way: look for a leak, a warming burette or a fading end point.',
    ],
    [
      'asks for a third where two agree and three are wanted',
      {
        kind: 'one-more',
        titres,
        closest: figure('0.05 mL'),
        agreeing: 2,
        wanted: 3,
        limit: figure('0.10 mL'),
        left: 3,
        drift: false,
      },
      '2 agree within 0.05 mL; 3 are wanted: one more.',
    ],
    [
      'compares concentrations where each trial has its own mass',
      {
        kind: 'another-trial',
        of: 'concentrations',
        trials: 1,
        wanted: 3,
        rsd: null,
        scattered: false,
        left: 5,
        limit: figure('0.6 %'),
      },
      '1 of 3 accurate trials done. The concentrations are compared, not the titres.',
    ],
    [
      'says by how much they scatter',
      {
        kind: 'another-trial',
        of: 'titres',
        trials: 3,
        wanted: 3,
        rsd: figure('1.05 %'),
        scattered: true,
        spoiled_by: 2,
        left: 1,
        limit: figure('0.6 %'),
      },
      'One more. The titres scatter by 1.05 %; 0.6 % is the limit. Without trial 2 they would agree.',
    ],
    [
      'sends nobody to a place that is not there',
      {
        kind: 'another-trial',
        of: 'titres',
        trials: 7,
        wanted: 3,
        rsd: figure('1.05 %'),
        scattered: true,
        left: 0,
        limit: figure('0.6 %'),
      },
      'The titres scatter by 1.05 %; 0.6 % is the limit. All places are used: tell your instructor.',
    ],
    [
      'says the way back from beyond a level',
      {
        kind: 'stop-passed',
        target: 'pH 5.00',
        found: 'pH 5.30',
        by: '0.30',
        below: false,
        back: 'add acid dropwise',
      },
      '0.30 past it: pH 5.30, and pH 5.00 is the target. Add acid dropwise.',
    ],
    [
      'sends to a mark of the burette only when its start is read',
      { kind: 'next-titre', trial: 2, about: '25.6 mL', slow_from: '24.5 mL', on_scale: true },
      'Trial 2 should take about 25.6 mL. Slow down from 24.5 mL on the burette.',
    ],
    [
      'keeps the figure above theory to itself while it would give an answer away',
      { kind: 'above-theory', excess: null, far: false },
      'Heavier than could form: damp? Dry it and weigh again before it leaves the balance.',
    ],
    [
      'says how much is just enough where nothing is planned over it',
      { kind: 'needed', material: 'hydrochloric acid', enough: '3.33 mL', planned: null },
      'By what you measured, 3.33 mL of hydrochloric acid is just enough.',
    ],
    [
      'says of a melting range what is wrong with it, and not that it is 0 °C low',
      { kind: 'melts-low', substance: 'urea', below: '0.0', width: '3.0', known: '133 °C' },
      'Melts over 3.0 °C; a pure solid melts over 1 °C or less. Urea melts at 133 °C. Impure or damp: dry it, or purify again.',
    ],
    [
      'leaves it to the mixture where several candidates melt alike',
      { kind: 'candidates', names: ['urea', 'trans-cinnamic acid'] },
      'Urea and trans-cinnamic acid melt like this: a mixed melting point decides.',
    ],
    [
      'tells both ends of what came over',
      { kind: 'boils-outside', substance: 'ethanol', known: '77.0', below: '6.0', above: '4.0' },
      'Ethanol boils at 77.0 °C today: collected from 6.0 °C below and up to 4.0 °C above. Something else came over.',
    ],
    [
      'says what a departure turns first, and what it changes',
      {
        kind: 'departed',
        nr: '1',
        limits: 'strontium chloride',
        changes: [{ result: 'n', label: 'amount', before: '25.0', with_it: '24.0', unit: 'mmol' }],
      },
      'With that, strontium chloride runs out first. Your results now allow for this: amount 24.0 mmol instead of 25.0.',
    ],
    [
      'keeps a departure without a consequence all the same',
      { kind: 'departed', nr: '1', limits: null, changes: [] },
      'Noted.',
    ],
  ])('%s', (_, matter, words) => {
    expect(adviceWords(advice(matter))).toBe(words)
  })
})

describe('a departure in a line', () => {
  const materials = [{ symbol: 'acid', name: 'sulfuric acid' }]
  const deviation = (what: Deviation['what'], note = ''): Deviation => ({ nr: '1', step: 0, what, note })
  it.each<[Deviation, string]>([
    [deviation({ kind: 'lost', material: 'acid', amount: '1 mL' }), 'lost about 1 mL of sulfuric acid'],
    [
      deviation({ kind: 'added', material: 'acid', amount: '1 mL' }, 'to make up'),
      'about 1 mL more of sulfuric acid (to make up)',
    ],
    [deviation({ kind: 'otherwise' }, 'on the bench'), 'on the bench'],
    [
      deviation({ kind: 'sampled', material: 'gone', amount: '0.1 g' }),
      'took about 0.1 g of gone for a test',
    ],
  ])('%#', (d, words) => {
    expect(deviationWords(d, materials)).toBe(words)
  })
})
