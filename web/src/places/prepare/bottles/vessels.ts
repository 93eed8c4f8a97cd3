/** Vessels as they are typed, `1 × 2000, 3 × 500`; null where that makes no sense. */
export function vesselsIn(typed: string): { size: string; count: number }[] | null {
  const parts = typed
    .split(',')
    .map((part) => part.trim())
    .filter((part) => part !== '')
  const found = parts.map((part) => /^(?:(\d{1,3})\s*[×x*]\s*)?(\d{1,6}(?:\.\d+)?)$/.exec(part))
  if (found.some((match) => match === null)) return null
  return found.map((match) => ({ size: `${match?.[2] ?? ''} mL`, count: Number(match?.[1] ?? 1) }))
}

/** `2000 mL, 500 mL, 500 mL` as `1 × 2000 mL and 2 × 500 mL`. */
export function counted(portions: readonly string[]): string {
  const sizes = [...new Set(portions)]
  return sizes.map((size) => `${portions.filter((p) => p === size).length} × ${size}`).join(' and ')
}
