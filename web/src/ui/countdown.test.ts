import { describe, expect, it } from 'vitest'
import { clockStands, span } from './countdown'

const clock = { since: 1_000_000, seconds: 600 }

describe('a clock', () => {
  it('runs down to nothing at its own second, and then over', () => {
    expect(clockStands(clock, 1_000_000)).toEqual({ kind: 'down', left: 600, part: 1 })
    expect(clockStands(clock, 1_150_000)).toEqual({ kind: 'down', left: 450, part: 0.75 })
    expect(clockStands(clock, 1_599_999).kind).toBe('down')
    expect(clockStands(clock, 1_600_000)).toEqual({ kind: 'out', over: 0 })
    expect(clockStands(clock, 1_665_000)).toEqual({ kind: 'out', over: 65 })
  })

  it('counts up without an end, and stands once it is stopped', () => {
    expect(clockStands({ since: 1_000_000 }, 1_061_500)).toEqual({ kind: 'up', passed: 61.5 })
    expect(clockStands({ ...clock, stopped: 1_300_000 }, 9_000_000)).toEqual({ kind: 'stopped', lasted: 300 })
  })

  it('never runs backwards when a device is behind the server', () => {
    expect(clockStands({ since: 1_000_000 }, 990_000)).toEqual({ kind: 'up', passed: 0 })
    expect(clockStands(clock, 990_000)).toEqual({ kind: 'down', left: 600, part: 1 })
  })

  it.each([
    [5, '0:05'],
    [59.9, '0:59'],
    [605, '10:05'],
    [3600, '1:00:00'],
    [84_831, '23:33:51'],
    [86_400, '1 d 0 h'],
    [183_600, '2 d 3 h'],
  ])('says %d s as %s', (seconds, words) => {
    expect(span(seconds)).toBe(words)
  })
})
