import type { PracticalHead } from '@/api'

/** Both spellings as one, and without the ending of the verb: what is typed one way is found the other way. */
export function plainWords(text: string): string {
  return text
    .toLowerCase()
    .replaceAll('sulph', 'sulf')
    .replaceAll(/([a-z]{2})i[sz](?:e|es|ed|ing|ation)\b/g, '$1is')
    .replaceAll(/y[sz](?:e|es|ed|ing)\b/g, 'ys')
    .replaceAll('aluminum', 'aluminium')
}

/** The practicals that have every word in what is said of them, or in what they are done with. */
export function found(practicals: readonly PracticalHead[], wanted: string): PracticalHead[] {
  const words = plainWords(wanted).split(/\s+/).filter(Boolean)
  return practicals.filter((p) => {
    const said = [p.title, p.kind, p.finds, p.level, ...p.shares, ...p.of]
    const text = plainWords(said.join(' '))
    return words.every((word) => text.includes(word))
  })
}

/** The middle one of some values to three figures, `0.0973`; none of none. */
export function medianOf(values: readonly number[]): string | null {
  const sorted = [...values].sort((a, b) => a - b)
  const lower = sorted[Math.floor((sorted.length - 1) / 2)]
  if (lower === undefined) return null
  const middle = (lower + (sorted[Math.ceil((sorted.length - 1) / 2)] ?? lower)) / 2
  const size = Math.abs(middle)
  return size >= 1000
    ? middle.toFixed(0)
    : size >= 1e-4 || size === 0
      ? middle.toPrecision(3)
      : String(Number(middle.toPrecision(3)))
}
