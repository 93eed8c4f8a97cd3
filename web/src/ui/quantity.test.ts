import { describe, expect, it } from 'vitest'
import { columnWidths, digitsOf, setName, setUnit } from './quantity'

describe('a reading on screen', () => {
  it('keeps the trailing zero and sets the last digit apart', () => {
    expect(digitsOf('25.00')).toEqual({ whole: '25', part: '.0', last: '0' })
    expect(digitsOf('3,04')).toEqual({ whole: '3', part: '.0', last: '4' })
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
