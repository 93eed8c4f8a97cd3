/** The most characters that a number has; the server refuses more. */
export const MOST_CHARACTERS = 40

const RAISED = '⁰¹²³⁴⁵⁶⁷⁸⁹'
const BLANK = String.raw`[ \u00a0\u2009\u202f]`
const TIMES = '[×xX*·∙⋅•✕]'
/** Digits in groups of three, the same sign between all; or plain ones. */
const MANTISSA = [
  String.raw`\d{1,3}(?<gap>[ \u00a0\u2009\u202f'’])\d{3}(?:\k<gap>\d{3})*(?!\k<gap>?\d)(?:[.,]\d*)?`,
  String.raw`\d{1,3}(?:,\d{3}){2,}(?![,\d])(?:\.\d*)?`,
  String.raw`\d{1,3}(?:,\d{3})+\.\d*`,
  String.raw`\d{1,3}(?:\.\d{3})+,\d*`,
  String.raw`\d+[.,]?\d*`,
  String.raw`[.,]\d+`,
].join('|')
const INTEGER = String.raw`[+\-]?\d{1,3}`
const LIFTED = String.raw`\^(?<caret>${INTEGER})|\^\((?<round>${INTEGER})\)|\^\{(?<curly>${INTEGER})\}|(?<raised>[⁺⁻]?[${RAISED}]{1,3})`
const POWER = `${BLANK}*[eE](?<letter>${INTEGER})|${BLANK}*${TIMES}${BLANK}*10(?:${LIFTED})`
const NUMBER = new RegExp(`^(?<sign>[+-]?)(?:(?<bare>10)(?=[\\^⁺⁻${RAISED}])|(?<mantissa>${MANTISSA}))`)
const BARE = new RegExp(`^10(?:${LIFTED})`)
const POWERED = new RegExp(`^(?:${POWER})`)
/** A power of ten that was begun and has lost its raised digits. */
const LOST = new RegExp(`^${BLANK}*${TIMES}${BLANK}*10|^[eE](?![a-zA-Z])`)
const ABOUT = /^(?:approx\.|about|ca\.|c\.|[≈~∼≃])\s*/

/** Farther powers of ten than any measurement; the server refuses them. */
const FAR = 60

/** What was typed into a field for a number. */
export type Written =
  /** A number, as typed and as it counts, with what stands behind it. */
  | { kind: 'number'; value: number; number: string; unit: string }
  /** It may be either: `6,240`. */
  | { kind: 'asked'; thousands: string; decimal: string }
  | { kind: 'none' }

/**
 * What a text typed into a field means, by the grammar that the server has; one table of cases holds both together. What is
 * known to have so many decimals is not asked back for them.
 */
export function written(text: string, decimals?: number): Written {
  if (text.length > MOST_CHARACTERS) return { kind: 'none' }
  const typed = plain(text.trim()).replace(ABOUT, '')
  const found = scanned(typed)
  if (!found) return { kind: 'none' }
  const number = typed.slice(0, found.end)
  const unit = typed.slice(found.end).trim()
  if (unit !== '' && !/^(?:[\p{L}%‰°º/]|1\/)/u.test(unit)) return { kind: 'none' }
  const comma = /^([+-]?[1-9]\d{0,2}),(\d{3})$/.exec(number)
  if (comma && decimals !== 3) {
    return { kind: 'asked', thousands: number.replace(',', ''), decimal: number.replace(',', '.') }
  }
  return { kind: 'number', value: found.value, number, unit }
}

/** The number that a text is, or nothing if it is none; a comma is a decimal comma. */
export function numberOf(text: string): number | undefined {
  const typed = plain(text.trim())
  const found = text.length > MOST_CHARACTERS ? undefined : scanned(typed)
  return found?.end === typed.length ? found.value : undefined
}

/** The number that a text begins with, and where it ends. */
function scanned(typed: string): { value: number; end: number } | undefined {
  const begin = NUMBER.exec(typed)
  if (!begin) return undefined
  const { sign = '', bare, mantissa = '1' } = begin.groups ?? {}
  const at = sign.length + (bare === undefined ? mantissa.length : 0)
  const behind = (bare === undefined ? POWERED : BARE).exec(typed.slice(at))
  const { letter, caret, round, curly, raised } = behind?.groups ?? {}
  if (!behind && (bare !== undefined || LOST.test(typed.slice(at)))) return undefined
  const power = letter ?? caret ?? round ?? curly ?? (raised === undefined ? '0' : lowered(raised))
  const value = Number(`${sign}${ungrouped(mantissa)}e${power}`)
  if (!Number.isFinite(value) || Math.abs(Number(power)) > FAR) return undefined
  return { value, end: at + (behind?.[0].length ?? 0) }
}

/** The last of points and commas is the decimal one; what stands between groups goes. */
function ungrouped(mantissa: string): string {
  const commas = mantissa.split(',').length - 1
  const bare = mantissa.replace(/[ \u00a0\u2009\u202f'’]/g, '')
  if (commas > 1 || (commas === 1 && bare.includes('.') && bare.indexOf(',') < bare.indexOf('.'))) {
    return bare.replace(/,/g, '')
  }
  return commas === 1 ? bare.replace(/\./g, '').replace(',', '.') : bare
}

/** Digits, signs and points of other scripts made plain, one for one. */
function plain(text: string): string {
  const digit = (c: string) => String(((c.codePointAt(0) ?? 0) & 0xf) % 10)
  return text
    .replace(/[０-９٠-٩۰-۹]/g, digit)
    .replace(/[．٫]/g, '.')
    .replace(/，/g, ',')
    .replace(/[−–－]/g, '-')
}

/** Raised digits as plain ones. */
function lowered(text: string): string {
  const flat = (c: string) => (c === '⁻' ? '-' : c === '⁺' ? '' : String(RAISED.indexOf(c)))
  return text.replace(/./g, flat)
}
