import { describe, expect, it } from 'vitest'
import { columnWidths, digitsOf, setFormulas, setName, setUnit } from './quantity'

describe('a reading on screen', () => {
  it('keeps the trailing zero and sets the last digit apart', () => {
    expect(digitsOf('25.00')).toEqual({ whole: '25', part: '.0', last: '0' })
    expect(digitsOf('3,04')).toEqual({ whole: '3', part: '.0', last: '4' })
    // While it is being typed a comma stays a comma: it may be asked back.
    expect(digitsOf('6,240', true)).toEqual({ whole: '6', part: ',24', last: '0' })
    expect(digitsOf('-7')).toEqual({ whole: '\u2212', part: '', last: '7' })
    expect(digitsOf('12.')).toEqual({ whole: '12', part: '.', last: '' })
  })

  it('leaves room so that points stand beneath each other', () => {
    expect(columnWidths(['3.04', '30.2', '25'])).toEqual({ before: 2, after: 3 })
  })
})

describe('names and units', () => {
  it('sets single letters as symbols and the rest as words', () => {
    expect(setName('m_dish_crystals')).toEqual({ symbol: 'm', words: 'dish crystals' })
    expect(setName('percent_yield')).toEqual({ symbol: null, words: 'percent yield' })
  })

  it('does not write the unit of a pure number', () => {
    expect(setUnit('1')).toBe('')
    expect(setUnit('dm^3')).toBe('dm³')
  })
})

describe('formulas in running words', () => {
  const set = (words: string) =>
    setFormulas(words)
      .map((s) => (s.below ? `_${s.text}` : s.text))
      .join('')

  it('sets counts below the line and leaves other digits where they are', () => {
    expect(set('CuSO4·5H2O')).toBe('CuSO_4·5H_2O')
    expect(set('amount of Mg(OH)2')).toBe('amount of Mg(OH)_2')
    expect(set('C12H22O11')).toBe('C_12H_22O_11')
    expect(set('SrCl2 is over; K2SO4 left')).toBe('SrCl_2 is over; K_2SO_4 left')
    expect(set('after step 5')).toBe('after step 5')
    expect(set('stock for 0.00100 mol/L')).toBe('stock for 0.00100 mol/L')
    expect(set('25 mL')).toBe('25 mL')
  })
})
