import { describe, expect, it } from 'vitest'
import { beside, minutesFor } from './times'

describe('the time that a step took', () => {
  it('goes to the plan in whole minutes that hold what the middle half took', () => {
    expect(minutesFor({ lower: 7.4, upper: 11.1 })).toEqual([7, 12])
    expect(minutesFor({ lower: 0.2, upper: 0.6 })).toEqual([1, 1])
  })

  it('stands beside the plan by its middle', () => {
    expect(beside({ median: 12.1, planned: [5, 12] })).toBe('longer')
    expect(beside({ median: 12, planned: [5, 12] })).toBe('as planned')
    expect(beside({ median: 4.9, planned: [5, 12] })).toBe('shorter')
    expect(beside({ median: 4.9, planned: null })).toBe('unplanned')
  })
})
