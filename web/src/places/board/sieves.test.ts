import { describe, expect, it } from 'vitest'
import type { Board, Row } from '@/api'
import { leftToWait } from './attention'
import type { Column } from './columns'
import { sieved } from './sieves'

const column = (key: string): Column => ({
  kind: 'reading',
  key,
  slots: [key],
  label: key,
  short: key,
  unit: 'g',
  low: 0,
  high: 1,
  band: [0, 1],
  decimals: 2,
  titre: false,
})
const COLUMNS = ['a', 'b', 'c', 'd'].map(column)

interface Told {
  filled?: string[]
  help?: string
  waits?: { step: number; since: number; ready_at: number; latest_at?: number }[]
  merged_into?: number
}

function row(group: number, { filled = [], help, waits = [], merged_into }: Told): Row {
  return {
    group,
    name: `Group ${group}`,
    readings: Object.fromEntries(filled.map((key) => [key, { text: '1.00' }])),
    answers: {},
    clocks: [],
    help: help ?? null,
    merged_into: merged_into ?? null,
    outcome: {
      delivered: {},
      findings: {},
      standings: {},
      waiting: waits.map((w) => ({ title: `step ${w.step}`, then_title: 'weigh', ...w })),
    },
  } as unknown as Row
}

function board(...rows: Row[]): Board {
  return { rows } as unknown as Board
}

describe('what an instructor looks for among the groups', () => {
  const all = board(
    row(1, { filled: ['a', 'b', 'c'] }),
    row(2, { filled: ['a', 'b', 'c'], help: 'step 3' }),
    row(3, { filled: ['a'] }),
    row(4, { filled: ['a', 'b'], waits: [{ step: 4, since: 10, ready_at: 20 }] }),
    row(5, { merged_into: 1, help: 'nobody hears this any more' }),
  )

  it('finds who calls, waits, wants a look or is behind, and not a group that has moved on', () => {
    const found = sieved(all, COLUMNS, [{ group: 4, key: 'a', name: '', words: '', tone: 'doubtful' }])
    const groups = Object.fromEntries(Object.entries(found).map(([kind, of]) => [kind, [...of]]))
    expect(groups).toEqual({ all: [1, 2, 3, 4], help: [2], doubtful: [4], waits: [4], behind: [3] })
  })

  it('finds nobody behind where all are', () => {
    expect(sieved(board(row(1, {}), row(2, {})), COLUMNS, []).behind.size).toBe(0)
  })
})

describe('what is left to wait', () => {
  it('is gathered by step: since the first, ready with the last, until the first that spoils', () => {
    const gathered = leftToWait(
      board(
        row(1, { waits: [{ step: 6, since: 50, ready_at: 90 }] }),
        row(2, { waits: [{ step: 4, since: 12, ready_at: 30, latest_at: 80 }] }),
        row(3, { waits: [{ step: 4, since: 10, ready_at: 40, latest_at: 95 }] }),
        row(4, { merged_into: 1, waits: [{ step: 4, since: 1, ready_at: 2 }] }),
      ),
    )
    expect(gathered).toEqual([
      {
        step: 'step 4',
        then: 'weigh',
        groups: ['Group 2', 'Group 3'],
        since: 10,
        ready_at: 40,
        latest_at: 80,
      },
      { step: 'step 6', then: 'weigh', groups: ['Group 1'], since: 50, ready_at: 90, latest_at: null },
    ])
  })
})
