/** Graduations: our ornament, always with true units. */

export interface Tick {
  value: number
  long: boolean
}

/** A step of 1, 2 or 5 times a power of ten that gives about `count` parts between `low` and `high`. */
export function niceStep(low: number, high: number, count: number): number {
  const rough = (high - low) / count
  const power = 10 ** Math.floor(Math.log10(rough))
  const factor = [1, 2, 5, 10].find((f) => f * power >= rough * 0.999) ?? 10
  return factor * power
}

/** Ticks at multiples of `step`, every `every`-th one long. */
export function ticks(low: number, high: number, step: number, every: number): Tick[] {
  const first = Math.ceil(low / step - 1e-6)
  const last = Math.floor(high / step + 1e-6)
  const out: Tick[] = []
  // A step far below the width would draw a grey block and stall the page.
  if (last - first > 400) return out
  for (let i = first; i <= last; i++) out.push({ value: i * step, long: i % every === 0 })
  return out
}

/** Digits after the point that a step needs. */
export function decimalsOf(step: number): number {
  return Math.max(0, -Math.floor(Math.log10(step) + 1e-9))
}
