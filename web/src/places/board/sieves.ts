import type { Board, Row } from '@/api'
import type { Note } from './attention'
import { atWork, frontOf, type Column } from './columns'

/** What an instructor looks for among the groups. */
export type Sieve = 'all' | 'help' | 'doubtful' | 'waits' | 'behind'

/** The sieves in the order in which they are offered, with their words. */
export const SIEVES: readonly { kind: Sieve; word: string }[] = [
  { kind: 'all', word: 'all' },
  { kind: 'help', word: 'call for help' },
  { kind: 'doubtful', word: 'to look at' },
  { kind: 'waits', word: 'wait' },
  { kind: 'behind', word: 'are behind' },
]

/** Columns that a group must lack against the middle of the class to be behind. */
const BEHIND = 2

/** How many groups each sieve holds, and whether one holds a group. */
export function sieved(
  board: Board,
  columns: readonly Column[],
  notes: readonly Note[],
): Record<Sieve, ReadonlySet<number>> {
  const rows = atWork(board)
  const fronts = rows.map((r) => frontOf(r, columns)).sort((a, b) => a - b)
  const middle = fronts[Math.floor(fronts.length / 2)] ?? 0
  const those = (keep: (row: Row) => boolean) => new Set(rows.filter(keep).map((r) => r.group))
  return {
    all: those(() => true),
    help: those((r) => r.help != null),
    doubtful: those((r) => notes.some((n) => n.group === r.group)),
    waits: those(
      (r) => r.outcome.waiting.length > 0 || r.clocks.some((c) => c.seconds != null && c.stopped == null),
    ),
    behind: those((r) => middle - frontOf(r, columns) >= BEHIND),
  }
}
