import { describe, expect, it } from 'vitest'
import type { ReadingSpec } from '@/api'
import { numberOf } from '@/ui'
import { looked, pressed, type Key } from './typed'

const dish: ReadingSpec = {
  reading: 'm_dish',
  open_ended: false,
  delivers: false,
  symbol: 'm_dish',
  label: 'mass of the empty dish',
  short: 'dish',
  unit: 'g',
  instrument: 'Balance 1',
  instrument_kind: 'balance',
  resolution: 0.01,
  decimals: 2,
  halves: false,
  weighed_out: true,
  range: [40, 60],
}

describe('typed digits at the bench', () => {
  it('takes point or comma, once, and keeps the trailing zero', () => {
    const type = (keys: string) => Array.from(keys).reduce((text, key) => pressed(text, key as Key), '')
    expect(type('47.90')).toBe('47.90')
    expect(type('47,9.0')).toBe('47,90')
    expect(pressed('47.9', 'back')).toBe('47.')
    expect(pressed('1'.repeat(40), '1')).toHaveLength(40)
  })

  it('knows a number from what is none', () => {
    expect(numberOf(' 47,91 ')).toBe(47.91)
    expect(numberOf('\u22120.5')).toBe(-0.5)
    expect(numberOf('2.5e-3')).toBe(0.0025)
    for (const none of ['', '47 g', '1.2.3', '1e400', '<b>4</b>', '4️⃣', 'Infinity', '.', '9'.repeat(41)]) {
      expect(numberOf(none), none).toBeUndefined()
    }
  })

  it('marks what is odd and nothing else', () => {
    expect(looked('47.91', dish)).toEqual({ kind: 'number', value: 47.91, number: '47.91', findings: [] })
    expect(looked('4.791', dish)).toMatchObject({
      findings: [{ kind: 'outside-range' }, { kind: 'decimals', expected: 2, typed: 3 }],
    })
    // 47.9 is inside, but a zero at the end was dropped.
    expect(looked('47.9', dish)).toMatchObject({ findings: [{ kind: 'decimals', typed: 1 }] })
    expect(looked('40', dish)).toMatchObject({ findings: [{ kind: 'decimals', typed: 0 }] })
    expect(looked('forty', dish)).toEqual({ kind: 'no-number' })
    expect(looked('47.91 g', dish)).toMatchObject({ number: '47.91', findings: [] })
    expect(looked('47910 mg', dish)).toEqual({ kind: 'no-number' })
    expect(looked('47,910', dish)).toMatchObject({ kind: 'asked' })
    expect(looked('47,910', { ...dish, decimals: 3 })).toMatchObject({ value: 47.91 })
  })
})
