import { describe, expect, it } from 'vitest'
import type { AnswerKind } from '@/api'
import { pasted, readCell } from './paper'

const reagents = [
  { symbol: 'acid', name: 'sulfuric acid' },
  { symbol: 'sulfite', name: 'sodium sulfite' },
  { symbol: 'carbonate', name: 'sodium carbonate' },
]
const asked = (answer: AnswerKind, unit: string, ...units: string[]) => ({
  answer,
  unit,
  units,
  reagents,
})
const mass = asked('number', 'g', 'g', 'mg', 'mmol')
const strength = asked('number', 'mol/L', 'mol/L', 'mmol/L', 'L')

describe('an answer typed in from paper', () => {
  it('is in the unit asked for unless it says its own, or had none', () => {
    expect(readCell(' 6.16 ', mass)).toEqual({ text: '6.16', unit: 'g' })
    expect(readCell('6160mg', mass)).toEqual({ text: '6160', unit: 'mg' })
    expect(readCell('1.2 × 10^-3 mmol/L', strength)).toEqual({ text: '1.2 × 10^-3', unit: 'mmol/L' })
    expect(readCell('6.16 -', mass)).toEqual({ text: '6.16', unit: '' })
    expect(readCell('1e-3', mass)).toEqual({ text: '1e-3', unit: 'g' })
  })

  it('keeps what it cannot read as it stands, for the record to refuse', () => {
    expect(readCell('six g', mass)).toEqual({ text: 'six', unit: 'g' })
    expect(readCell('6.16 kg', mass)).toEqual({ text: '6.16 kg', unit: 'g' })
    expect(readCell('-', mass)).toEqual({ text: '-', unit: 'g' })
  })

  it('takes a reagent by the beginning of its name, and a formula and words as they are', () => {
    const limiting = asked('limiting', 'mmol')
    expect(readCell('Sulf', limiting)).toEqual({ text: 'acid', unit: '' })
    // Two begin so: nobody guesses which, and the record refuses it.
    expect(readCell('Sodium', limiting)).toEqual({ text: 'Sodium', unit: '' })
    expect(readCell('sodium c', limiting)).toEqual({ text: 'carbonate', unit: '' })
    expect(readCell('water', limiting)).toEqual({ text: 'water', unit: '' })
    expect(readCell('ZnI2', { ...limiting, answer: 'formula' })).toEqual({ text: 'ZnI2', unit: '' })
    expect(readCell('It was damp g', { ...limiting, answer: 'words' }).text).toBe('It was damp g')
  })
})

it('what a spreadsheet copies is taken apart into cells', () => {
  expect(pasted('6.16\t25.0\r\n6.20\t\r\n')).toEqual([
    ['6.16', '25.0'],
    ['6.20', ''],
  ])
})
