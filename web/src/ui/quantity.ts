/** How names of a sheet are set: `m_dish_crystals` is an italic *m* with words beside it, `percent_yield` plain words. */
export interface SetName {
  symbol: string | null
  words: string
}

export function setName(name: string): SetName {
  const [head = '', ...rest] = name.split('_')
  if (head.length === 1) return { symbol: head, words: rest.join(' ') }
  return { symbol: null, words: name.replaceAll('_', ' ') }
}

/** A number as set in text: a true minus. */
export function setNumber(text: string): string {
  return text.replace('-', '\u2212')
}

/** A unit as set: `1` is not written; `mol/L` and `%` stand as they are, cubes are raised. */
export function setUnit(unit: string): string {
  if (unit === '1') return ''
  return unit.replace('^-1', '⁻¹').replace('^3', '³').replace('^2', '²')
}

/** The parts of a typed number around its point, and its last digit, which is the uncertain one. */
export interface Digits {
  whole: string
  part: string
  last: string
}

export function digitsOf(text: string, asTyped = false): Digits {
  const plain = setNumber(asTyped ? text : text.trim().replace(',', '.'))
  const last = /\d$/.test(plain) ? plain.slice(-1) : ''
  const body = last ? plain.slice(0, -1) : plain
  const point = plain.search(/[.,]/)
  if (point < 0) return { whole: body, part: '', last }
  return { whole: body.slice(0, point), part: body.slice(point), last }
}

/** Widths, in characters, that a column needs so that its points stand beneath each other. */
export function columnWidths(texts: readonly string[]): { before: number; after: number } {
  let before = 1
  let after = 0
  for (const text of texts) {
    const plain = text.trim().replace(',', '.')
    const point = plain.indexOf('.')
    before = Math.max(before, point < 0 ? plain.length : point)
    after = Math.max(after, point < 0 ? 0 : plain.length - point)
  }
  return { before, after }
}

/** A stretch of text that stands on the line, or the count of a formula below it. */
export interface Stretch {
  text: string
  below: boolean
}

/** Words with the counts of formulas in them set below the line: `CuSO4·5H2O` but not `step 5` or `25.0 mL`. */
export function setFormulas(words: string): Stretch[] {
  const out: Stretch[] = []
  for (const part of words.split(/(?<=[A-Za-z)\]])(\d+)(?![\d.]*[a-z])/)) {
    if (part === '') continue
    const below = /^\d+$/.test(part) && out.length > 0 && /[A-Za-z)\]]$/.test(out.at(-1)?.text ?? '')
    out.push({ text: part, below })
  }
  return out
}
