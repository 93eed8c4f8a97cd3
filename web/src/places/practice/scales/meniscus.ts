/** A scale as it is drawn. */
export interface Scale {
  division: number
  capacity: number
  zero_at_top: boolean
  decimals: number
  unit: string
}

/** Marks within a stretch of a scale, with the numbers that are written beside them. */
export function marksOf(scale: Scale, low: number, high: number) {
  const { division, capacity } = scale
  // Ten divisions to a number; where one division is a fifth, five.
  const each = Math.round(1 / division) === 5 ? 5 : 10
  const first = Math.max(0, Math.ceil(low / division - 1e-9))
  const last = Math.min(Math.round(capacity / division), Math.floor(high / division + 1e-9))
  const marks = []
  for (let n = first; n <= last; n += 1) {
    marks.push({
      value: n * division,
      number: n % each === 0 ? String(Math.round(n * division)) : null,
      long: n % (each / 2) === 0,
    })
  }
  return marks
}

/** Where something stands between two marks, in words: for whoever does not see the picture. */
export function inWords(scale: Scale, stands: number): string {
  const { division, unit } = scale
  const decimals = Math.max(0, Math.ceil(-Math.log10(division) - 1e-9))
  const below = Math.floor(stands / division + 1e-6) * division
  const part = (stands - below) / division
  const at = (value: number) => value.toFixed(decimals)
  if (part < 0.05) return `on the mark ${at(below)} ${unit}`
  const [low, high] = [at(below), at(below + division)]
  const where =
    part < 0.25
      ? `just past ${low}`
      : part < 0.45
        ? `nearer ${low}`
        : part <= 0.55
          ? 'half way'
          : part <= 0.75
            ? `nearer ${high}`
            : `just short of ${high}`
  return `between ${low} and ${high} ${unit}, ${where}`
}
