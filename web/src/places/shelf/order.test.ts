import { expect, test } from 'vitest'
import type { PracticalHead } from '@/api'
import { choices, EVERYTHING, inOrder, narrowed } from './order'

const head = (id: string, over: Partial<PracticalHead>) =>
  ({
    id,
    title: id,
    kind: 'titration',
    level: 'upper',
    visits: 1,
    minutes: [30, 60],
    archived: false,
    ...over,
  }) as PracticalHead

const all = [
  head('vinegar', { minutes: [40, 80] }),
  head('antacid', { minutes: [40, 80], level: 'first year' }),
  head('epsom', { kind: 'salt', visits: 2, minutes: [50, 70] }),
  head('old one', { archived: true, minutes: [10, 20] }),
]
const ids = (of: readonly PracticalHead[]) => of.map((p) => p.id)

test('what is alike in the order stands by its title', () => {
  expect(ids(inOrder(all, 'time'))).toEqual(['old one', 'epsom', 'antacid', 'vinegar'])
  expect(ids(inOrder(all, 'kind'))).toEqual(['epsom', 'antacid', 'old one', 'vinegar'])
  expect(ids(all)).toEqual(['vinegar', 'antacid', 'epsom', 'old one'])
})

test('every choice narrows, and what was archived is shown only when it is wanted', () => {
  expect(ids(narrowed(all, EVERYTHING))).toEqual(['vinegar', 'antacid', 'epsom'])
  expect(ids(narrowed(all, { ...EVERYTHING, archived: true, within: 70 }))).toEqual(['epsom', 'old one'])
  expect(ids(narrowed(all, { ...EVERYTHING, level: 'upper', kind: 'titration' }))).toEqual(['vinegar'])
  expect(choices(all, (p) => p.kind)).toEqual(['salt', 'titration'])
})
