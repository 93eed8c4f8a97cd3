import { expect, it } from 'vitest'
import type { Row, Slip } from '@/api'
import { proposedOn } from './proposed'

const explained = (slip: Slip, at: string, instead: string) => ({
  diagnosis: { named: [{ slip, at, instead, value: 1, chance: 1 }], near: [] },
})

it('a reading that was copied otherwise is proposed once, and no other slip is', () => {
  const outcome = {
    verdicts: {
      n: explained('digits-swapped', 'm_dish', '47.19 g'),
      c: explained('digits-swapped', 'm_dish', '47.19 g'),
      w: explained('hydrate-ignored', 'm_dish', '120.4 g/mol'),
    },
    own_verdicts: { 12: { n: explained('decimal-point', 'm_full', '5.173 g') } },
  }
  const row = { outcome } as unknown as Row
  expect(proposedOn(row, 'm_dish')).toEqual(['47.19 g'])
  expect(proposedOn(row, 'm_full')).toEqual(['5.173 g'])
  expect(proposedOn(row, 'V_acid')).toEqual([])
})
