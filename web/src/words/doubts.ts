import type { Doubt } from '@/api'
import { say, type Wording } from './wording'

const had: Wording<Doubt['doubted']> = {
  'ten-times': (d) => `Were ${d.material} ten times as strong`,
  'a-tenth': (d) => `Were ${d.material} a tenth as strong`,
  exchanged: (d) => `Were ${d.one} and ${d.other} exchanged`,
}

/** What would follow, had something been otherwise. */
export function doubtWords(doubt: Doubt): string {
  const limits = doubt.limits == null ? '' : `, ${doubt.limits} would limit`
  const cannot = doubt.feasible ? '' : ': that cannot be'
  return `${say(had, doubt.doubted)}${limits} and the yield be ${doubt.percent} %${cannot}.`
}
