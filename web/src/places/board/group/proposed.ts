import type { Row, Slip, SlipPlace } from '@/api'

/** Slips of copying a number: the sum may have it right, and the reading wrong. */
const COPIED: readonly Slip[] = ['digits-swapped', 'decimal-point']

/**
 * What their sums read in a place instead of what stands there, where a slip of copying explains an answer; nothing where
 * somebody at the same bench came to the right value with the reading as it stands.
 */
export function proposedOn(row: Row, slot: string): string[] {
  const sheets = [row.outcome.verdicts, ...Object.values(row.outcome.own_verdicts)]
  const named = sheets.flatMap((sheet) =>
    Object.entries(sheet).flatMap(([result, v]) => v.diagnosis.named.slice(0, 1).map((e) => ({ result, e }))),
  )
  const isHere = (at: SlipPlace) => at.instead == null && at.what.some((part) => part.symbol === slot)
  const here = named.filter(({ e }) => isHere(e.at) && COPIED.includes(e.slip))
  const doubtful = here.filter(({ result }) => !sheets.some((s) => s[result]?.value.kind === 'right'))
  return [...new Set(doubtful.flatMap(({ e }) => (e.instead == null ? [] : [e.instead])))]
}
