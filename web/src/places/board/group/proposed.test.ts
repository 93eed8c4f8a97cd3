import { expect, it } from 'vitest'
import type { Row, Slip } from '@/api'
import { proposedOn } from './proposed'

const explained = (slip: Slip, at: string, instead: string) => ({
  value: { kind: 'wrong' },
  diagnosis: {
    named: [{ slip, at: { what: [{ symbol: at, label: at }] }, instead, value: 1, chance: 1 }],
    near: [],
  },
})

it('a reading that was copied otherwise is proposed once, and no other slip is', () => {
  const outcome = {
    verdicts: {
      n: explained('digits-swapped', 'm_dish', '47.19 g'),
      c: explained('digits-swapped', 'm_dish', '47.19 g'),
      w: explained('hydrate-ignored', 'm_dish', '120.4 g/mol'),
    },
    own_verdicts: {
      12: {
        p: explained('decimal-point', 'm_full', '5.173 g'),
        q: explained('decimal-point', 'V', '2.5 mL'),
      },
      13: { q: { value: { kind: 'right' }, diagnosis: { named: [], near: [] } } },
    },
  }
  const row = { outcome } as unknown as Row
  expect(proposedOn(row, 'm_dish')).toEqual(['47.19 g'])
  expect(proposedOn(row, 'm_full')).toEqual(['5.173 g'])
  // Another student of the group came to the right value with the reading as it stands.
  expect(proposedOn(row, 'V')).toEqual([])
})
