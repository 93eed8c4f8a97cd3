import { describe, expect, it } from 'vitest'
import { read, shown } from './values'

describe('a field of the form', () => {
  it.each([
    ['number', '24,5', 24.5],
    ['number', '−3', -3],
    ['number', '2.5×10³', 2500],
    ['pair', '0,5 to 1,5', [0.5, 1.5]],
    ['pair', '0,5; 1,5', [0.5, 1.5]],
    ['numbers', '0, 0,5, 2', [0, 0.5, 2]],
    ['number', '', null],
    ['pair', '2.9 to 3.1', [2.9, 3.1]],
    ['pair', '2.9, 3.1', [2.9, 3.1]],
    ['numbers', '0, 0.5, 2', [0, 0.5, 2]],
    ['lines', ' one \n\n two', ['one', 'two']],
    ['map', 'acid = 20.0 ± 0.3 mL\n', { acid: '20.0 ± 0.3 mL' }],
    ['text', '  3.0 ± 0.1 g ', '3.0 ± 0.1 g'],
    ['text', '   ', null],
  ])('%s: “%s”', (kind, typed, value) => {
    expect(read(typed, kind)).toEqual({ value })
  })

  it.each([
    ['number', 'twelve', '“twelve” is not a number'],
    ['pair', '3', 'two numbers: from, to'],
    ['map', 'acid: 3', '“acid: 3”: write name = value'],
  ])('%s: “%s” is told', (kind, typed, error) => {
    expect(read(typed, kind)).toEqual({ error })
  })

  it('shows what it reads, and reads what it shows', () => {
    for (const [kind, value] of [
      ['pair', [2.9, 3.1]],
      ['lines', ['one', 'two']],
      ['map', { a: '1 g', b: '2 mL' }],
      ['number', 0.005],
    ] as const) {
      expect(read(shown(value, kind), kind)).toEqual({ value })
    }
  })
})
