import type { BenchMark } from '@/api'
import { say, type Wording } from './wording'

type Found = BenchMark['found']

const names: { [K in Found['kind']]: string } = {
  recording: 'recording',
  agreement: 'repeats that agree',
  closeness: 'near the accepted value',
}

const counted = (n: number, of: number) => (n === of ? `all ${of}` : `${n} of ${of}`)

const found: Wording<Found> = {
  recording: (f) => `${counted(f.good, f.of)} readings with all their decimals`,
  agreement: (f) =>
    f.of === 0
      ? 'there are no repeats yet'
      : `${counted(f.agree, f.of)} agree as wanted${f.nearly > 0 ? `, ${f.nearly} nearly` : ''}`,
  closeness: (f) => (f.off_percent == null ? 'compared with the accepted value' : `${f.off_percent} % off`),
}

/** What marks for the work at the bench are given for. */
export const benchMarkName = (mark: BenchMark) => names[mark.found.kind]
/** What was found there. */
export const benchMarkWords = (mark: BenchMark) => say(found, mark.found)
