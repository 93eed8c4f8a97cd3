import type { Doubt, Needed } from '@/api'
import { say, type Wording } from './wording'

const had: Wording<Doubt['doubted']> = {
  'ten-times': (d) => `Were ${d.material} ten times as strong`,
  'a-tenth': (d) => `Were ${d.material} a tenth as strong`,
  exchanged: (d) => `Were ${d.one} and ${d.other} exchanged`,
}

/** What would follow, had something been otherwise. */
export function doubtWords(doubt: Doubt): string {
  const limits = doubt.limits == null ? '' : ` ${doubt.limits} would limit and`
  const cannot = doubt.feasible ? '' : ': that cannot be'
  return `${say(had, doubt.doubted)},${limits} the yield would be ${doubt.percent} %${cannot}.`
}

const needs: Wording<Needed> = {
  weighed: (n) =>
    `${n.mass} of what was weighed is no product: water, wash liquid, a salt, the vessel (${n.percent} %)`,
  taken: (n) => `${n.needed} of ${n.material} taken, not ${n.recorded}`,
  strength: (n) => `${n.material} of ${n.needed}, not ${n.stated}`,
}

/** What a reason for a yield above theory would need. */
export const neededWords = (needed: Needed) => say(needs, needed)
