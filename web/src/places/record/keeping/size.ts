/** A size for reading: `4 kB`, `1.9 MB`. */
export function size(bytes: number): string {
  if (bytes < 999_500) return `${Math.max(1, Math.round(bytes / 1000))} kB`
  const [value, unit] = bytes < 999_500_000 ? [bytes / 1e6, 'MB'] : [bytes / 1e9, 'GB']
  return `${value < 9.95 ? value.toFixed(1) : value.toFixed(0)} ${unit}`
}
