import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { lessonAfter, lessonsOf } from './lessonTimes'

beforeEach(() => {
  vi.stubEnv('TZ', 'Europe/Berlin')
})
afterEach(() => {
  vi.unstubAllEnvs()
})

it('keeps the time on the wall when the clocks change between two lessons', () => {
  // Clocks go back on 25 October 2026 and forward on 29 March 2026.
  const autumn = lessonsOf(3, new Date('2026-10-23T10:15').getTime())
  expect(autumn.map((l) => l.begins)).toEqual(['2026-10-23T10:15', '2026-10-25T10:15', '2026-10-27T10:15'])
  expect(lessonAfter({ begins: '2026-03-28T08:00', minutes: 45 })).toEqual({
    begins: '2026-03-30T08:00',
    minutes: 45,
  })
})

it('has one lesson at least', () => {
  expect(lessonsOf(0, 0)).toHaveLength(1)
})
