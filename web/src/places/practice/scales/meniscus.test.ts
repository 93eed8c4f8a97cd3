import { expect, test } from 'vitest'
import { inWords, marksOf, type Scale } from './meniscus'

const burette: Scale = { division: 0.1, capacity: 50, zero_at_top: true, decimals: 2, unit: 'mL' }
const cylinder: Scale = { division: 0.2, capacity: 10, zero_at_top: false, decimals: 2, unit: 'mL' }

test('a meniscus in words tells as much as the picture, and no more', () => {
  expect(inWords(burette, 24.3)).toBe('on the mark 24.3 mL')
  expect(inWords(burette, 24.34)).toBe('between 24.3 and 24.4 mL, nearer 24.3')
  expect(inWords(burette, 24.35)).toBe('between 24.3 and 24.4 mL, half way')
  expect(inWords(burette, 24.38)).toBe('between 24.3 and 24.4 mL, just short of 24.4')
  expect(inWords(cylinder, 6.44)).toBe('between 6.4 and 6.6 mL, just past 6.4')
})

test('marks end with the scale, and carry the numbers that are on the glass', () => {
  const top = marksOf(burette, -0.6, 1.1)
  expect(top[0]).toEqual({ value: 0, number: '0', long: true })
  expect(top.filter((m) => m.number !== null).map((m) => m.number)).toEqual(['0', '1'])
  expect(marksOf(cylinder, 9.5, 10.4).at(-1)).toEqual({ value: 10, number: '10', long: true })
  expect(marksOf(burette, 49.85, 51).length).toBe(2)
})
