import { digitsOf, setFormulas, setName, setUnit } from './quantity'

/** A name of the sheet: symbol italic, words upright. */
export function Name({ of }: { of: string }) {
  const { symbol, words } = setName(of)
  return (
    <span className="whitespace-nowrap">
      {symbol !== null && <i>{symbol}</i>}
      {symbol !== null && words !== '' && '\u2009'}
      <Words of={words} />
    </span>
  )
}

/** A unit after its number, behind a thin space. */
export function Unit({ of }: { of: string }) {
  const unit = setUnit(of)
  return unit === '' ? null : <span className="whitespace-nowrap">{'\u2009' + unit}</span>
}

/**
 * Digits as typed, in the mono face, aligned on the point when `before` and `after` give the column's widths. The last
 * digit, the uncertain one, is lighter.
 */
export function Reading({
  text,
  before = 0,
  after = 0,
  asTyped = false,
}: {
  text: string
  before?: number
  after?: number
  /** A decimal comma stays a comma. */
  asTyped?: boolean
}) {
  const { whole, part, last } = digitsOf(text, asTyped)
  const hasPoint = part !== ''
  const length = whole.length + part.length + last.length
  const beforePoint = hasPoint ? whole.length : length
  const lead = Math.max(0, before - beforePoint)
  const tail = Math.max(0, after - (hasPoint ? part.length + last.length : 0))
  return (
    <span className="font-mono whitespace-pre">
      <span aria-hidden="true">{' '.repeat(lead)}</span>
      {whole}
      {part}
      <span className="text-pencil">{last}</span>
      <span aria-hidden="true">{' '.repeat(tail)}</span>
    </span>
  )
}

/** Words in which formulas have real subscripts. */
export function Words({ of }: { of: string }) {
  return setFormulas(of).map((s, i) =>
    s.below ? (
      <sub key={i} className="text-[0.72em]">
        {s.text}
      </sub>
    ) : (
      s.text
    ),
  )
}
