import type { PracticalHead } from '@/api'

/** What the library can be put in order by. */
export const ORDERS = ['title', 'kind', 'time', 'lessons', 'level'] as const
export type Order = (typeof ORDERS)[number]

const by: Record<Order, (a: PracticalHead, b: PracticalHead) => number> = {
  title: () => 0,
  kind: (a, b) => a.kind.localeCompare(b.kind),
  time: (a, b) => longest(a) - longest(b),
  lessons: (a, b) => a.visits - b.visits,
  level: (a, b) => a.level.localeCompare(b.level),
}

function longest(p: PracticalHead): number {
  return p.minutes[1] ?? 0
}

/** The library in an order; what is alike in it, by title. */
export function inOrder(practicals: readonly PracticalHead[], order: Order): PracticalHead[] {
  return [...practicals].sort((a, b) => by[order](a, b) || a.title.localeCompare(b.title))
}

/** What the library can be narrowed to. */
export interface Narrowed {
  /** What sort of work; all of them if empty. */
  kind: string
  /** For whom; everybody if empty. */
  level: string
  /** At most so many minutes at the bench; any if none. */
  within: number | null
  archived: boolean
}

export const EVERYTHING: Narrowed = { kind: '', level: '', within: null, archived: false }

/** The practicals that are left. */
export function narrowed(practicals: readonly PracticalHead[], to: Narrowed): PracticalHead[] {
  return practicals.filter(
    (p) =>
      (to.archived || !p.archived) &&
      (to.kind === '' || p.kind === to.kind) &&
      (to.level === '' || p.level === to.level) &&
      (to.within === null || longest(p) <= to.within),
  )
}

/** The different values of something, in order. */
export function choices(practicals: readonly PracticalHead[], of: (p: PracticalHead) => string): string[] {
  return [...new Set(practicals.map(of))].filter((v) => v !== '').sort((a, b) => a.localeCompare(b))
}
