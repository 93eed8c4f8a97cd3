import type { Doubt, Needed } from '@/api'
import { say, type Wording } from './wording'

const had: Wording<Doubt['doubted']> = {
  'ten-times': (d) => `If ${d.material} were ten times as concentrated`,
  'a-tenth': (d) => `If ${d.material} were a tenth as concentrated`,
  exchanged: (d) => `If ${d.one} and ${d.other} were swapped`,
}

/** What would follow, had something been otherwise. */
export function doubtWords(doubt: Doubt): string {
  const limits = doubt.limits == null ? '' : ` ${doubt.limits} would limit and`
  const cannot = doubt.feasible ? '' : ' (impossible)'
  return `${say(had, doubt.doubted)},${limits} the yield would be ${doubt.percent} %${cannot}.`
}

const needs: Wording<Needed> = {
  weighed: (n) =>
    `${n.mass} (${n.percent} %) of what you weighed would have to be something else: water, wash liquid, a salt, the vessel`,
  taken: (n) => `${n.needed} of ${n.material} taken, not ${n.recorded}`,
  strength: (n) => `${n.material} of ${n.needed}, not ${n.stated}`,
}

/** What a reason for a yield above theory would need. */
export const neededWords = (needed: Needed) => say(needs, needed)
