/** The equation as typed, with other coefficients before its substances. */
export function withCoefficients(
  equation: string,
  found: { reactants: readonly string[]; products: readonly string[] },
): string {
  const [left = '', right = ''] = equation.split(/<=>|<->|=>|->|⇌|→|=/)
  const side = (text: string, numbers: readonly string[]) =>
    text
      .split(/\s\+\s/)
      .map((term, i) => {
        const bare = term.trim().replace(/^\d+(?:\/\d+)?\s+/, '')
        const n = numbers[i] ?? '1'
        return n === '1' && !/^\d/.test(bare) ? bare : `${n} ${bare}`
      })
      .join(' + ')
  return `${side(left, found.reactants)} -> ${side(right, found.products)}`
}
