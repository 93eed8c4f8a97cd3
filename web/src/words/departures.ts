import type { Deviation } from '@/api'

/** A departure in a line. */
export function deviationWords(d: Deviation, materials: readonly { symbol: string; name: string }[]): string {
  const name = (symbol: string) => materials.find((m) => m.symbol === symbol)?.name ?? symbol
  const note = d.note ? ` (${d.note})` : ''
  switch (d.what.kind) {
    case 'lost':
      return `lost about ${d.what.amount} of ${name(d.what.material)}${note}`
    case 'added':
      return `about ${d.what.amount} more of ${name(d.what.material)}${note}`
    case 'sampled':
      return `took about ${d.what.amount} of ${name(d.what.material)} for a test${note}`
    case 'seeded':
      return `seeded with about ${d.what.amount} of ${name(d.what.material)}${note}`
    case 'weighed-once':
      return `weighed once${note}`
    case 'otherwise':
      return d.note ?? ''
  }
}
