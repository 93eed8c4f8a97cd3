import type { Consequence } from '@/api'
import type { Wording } from './wording'
import { say } from './wording'

const list = (words: readonly string[]) =>
  words.length < 2 ? words.join('') : `${words.slice(0, -1).join(', ')} and ${words.at(-1) ?? ''}`

const heads: { [K in Consequence['kind']]: string } = {
  'in-excess': 'Excess:',
  'not-the-one-meant': 'Not as meant:',
  precision: 'Precision:',
  critical: 'Critical:',
  'rough-will-do': 'Rough is fine:',
  time: 'Time:',
}

const bodies: Wording<Consequence> = {
  'in-excess': (c) =>
    `${c.enough} of ${c.material} would be just enough; as planned ${c.percent} % over, from ${c.low} to ${c.high} % over its band.${
      c.near_edge ? ' That is near the edge: somebody may weigh too little.' : ''
    }`,
  'not-the-one-meant': (c) => `${c.limits} limits with these amounts, and it is not the one that should.`,
  precision: (c) => `${c.result} good to U = ${c.percent} % of its value (k = 2) with these instruments.`,
  critical: (c) =>
    `${list(c.readings.map((r) => `${r.label} (${r.percent} %)`))} decide the result: record every digit.`,
  'rough-will-do': (c) => `${list(c.readings)}: any amount within the band gives the same result.`,
  time: (c) =>
    `${c.minutes[0] ?? 0} to ${c.minutes[1] ?? 0} min at the bench in ${c.visits} visits; waits: ${list(c.waits)}.`,
}

/** A consequence of the plan: a word, and the sentence. */
export function consequenceWords(c: Consequence): { head: string; body: string } {
  return { head: heads[c.kind], body: say(bodies, c) }
}
