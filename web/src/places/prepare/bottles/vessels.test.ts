import { expect, test } from 'vitest'
import { counted, vesselsIn } from './vessels'

test('vessels are read as they are typed, and what is none says so', () => {
  expect(vesselsIn('1 × 2000, 3x500,250')).toEqual([
    { size: '2000 mL', count: 1 },
    { size: '500 mL', count: 3 },
    { size: '250 mL', count: 1 },
  ])
  expect(vesselsIn(' ')).toEqual([])
  for (const typed of ['a big one', '2 × ', '-1 × 500', '1e9 × 5', '2000 mL'])
    expect(vesselsIn(typed)).toBeNull()
  expect(counted(['2000 mL', '500 mL', '500 mL'])).toBe('1 × 2000 mL and 2 × 500 mL')
})
