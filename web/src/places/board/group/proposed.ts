import type { Row, Slip } from '@/api'

/** Slips of copying a number: the sum may have it right, and the reading wrong. */
const COPIED: readonly Slip[] = ['digits-swapped', 'decimal-point']

/** What their sums read in a place instead of what stands there, where a slip of copying explains an answer. */
export function proposedOn(row: Row, slot: string): string[] {
  const sheets = [row.outcome.verdicts, ...Object.values(row.outcome.own_verdicts)]
  const named = sheets.flatMap((s) => Object.values(s)).flatMap((v) => v.diagnosis.named.slice(0, 1))
  const here = named.filter((e) => e.at === slot && COPIED.includes(e.slip))
  return [...new Set(here.flatMap((e) => (e.instead == null ? [] : [e.instead])))]
}
