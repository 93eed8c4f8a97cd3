/** Amounts as they are measured out: three figures, in the unit that a label would have. */
export function amount(value: number, unit: string): string {
  if (value === 0) return `0\u2009${unit}`
  const [shown, in_] = scaled(value, unit)
  return `${figures(shown)}\u2009${in_}`
}

function scaled(value: number, unit: string): readonly [number, string] {
  const size = Math.abs(value)
  if (unit === 'mL' && size >= 1000) return [value / 1000, 'L']
  if (unit === 'g' && size >= 1000) return [value / 1000, 'kg']
  if (unit === 'g' && size < 0.1) return [value * 1000, 'mg']
  return [value, unit]
}

/** At most three figures after the leading ones, no zeros that say nothing. */
export function figures(value: number): string {
  const whole = Math.abs(value) >= 1000 ? Math.round(value) : Number(value.toPrecision(3))
  return String(whole)
}
