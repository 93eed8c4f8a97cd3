/** The most characters that a number has; the server refuses more. */
export const MOST_CHARACTERS = 40

const RAISED = '⁰¹²³⁴⁵⁶⁷⁸⁹'
const PLAIN = String.raw`[+\-\u2212]?(?:\d+[.,]?\d*|[.,]\d+)`
const POWER = String.raw`[eE]([+\-\u2212]?\d{1,3})|[ \u2009]*[×x*][ \u2009]*10(?:\^([+\-\u2212]?\d{1,3})|([⁺⁻]?[${RAISED}]{1,3}))`
const NUMBER = new RegExp(`^(${PLAIN})(?:${POWER})?$`)

/** Farther powers of ten than any measurement; the server refuses them. */
const FAR = 60

/**
 * The number that a text means, or nothing if it means none: with a point or a comma, a minus of either kind, a power of ten
 * as `2.5e3`, `2.5×10^3` or `2.5×10³`. One table of cases holds this and the server's reading together.
 */
export function numberOf(text: string): number | undefined {
  const plain = text.trim()
  if (text.length > MOST_CHARACTERS) return undefined
  const [, mantissa, byLetter, byCaret, raised] = NUMBER.exec(plain) ?? []
  if (mantissa === undefined) return undefined
  const power = signed(byLetter ?? byCaret ?? (raised === undefined ? '0' : lowered(raised)))
  const value = Number(`${signed(mantissa.replace(',', '.'))}e${power}`)
  return Number.isFinite(value) && Math.abs(Number(power)) <= FAR ? value : undefined
}

const signed = (text: string) => text.replace('\u2212', '-')

/** Raised digits as plain ones. */
function lowered(text: string): string {
  const plain = (c: string) => (c === '⁻' ? '-' : c === '⁺' ? '' : String(RAISED.indexOf(c)))
  return text.replace(/./g, plain)
}
