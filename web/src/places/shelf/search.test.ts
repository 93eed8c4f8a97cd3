import { expect, test } from 'vitest'
import type { PracticalHead } from '@/api'
import { found, medianOf, plainWords } from './search'

const practical = (title: string, ...of: string[]) =>
  ({ title, kind: 'titration', finds: '', level: '', shares: [], of }) as unknown as PracticalHead

test('a practical is found by what it is done with, in either spelling', () => {
  const all = [
    practical('Standardising hydrochloric acid', 'hydrochloric acid', 'HCl', 'sodium carbonate', 'Na2CO3'),
    practical('Barium sulfate', 'barium chloride', 'BaCl2'),
  ]
  const titles = (wanted: string) => found(all, wanted).map((p) => p.title)
  expect(titles('HCl')).toEqual(['Standardising hydrochloric acid'])
  expect(titles('standardize carbonate')).toEqual(['Standardising hydrochloric acid'])
  expect(titles('sulphate')).toEqual(['Barium sulfate'])
  expect(titles('BaCl2 HCl')).toEqual([])
  expect(titles(' ')).toHaveLength(2)
  // A size is no spelling of anything.
  expect(plainWords('size of a prize, analyzed')).toBe('size of a pris, analys')
})

test('the class between has its figures', () => {
  expect(medianOf([0.0973, 0.0981, 0.0969])).toBe('0.0973')
  expect(medianOf([62, 63])).toBe('62.5')
  expect(medianOf([1234.4])).toBe('1234')
  expect(medianOf([])).toBeNull()
  expect(medianOf([0.0000123])).toBe('0.0000123')
})
