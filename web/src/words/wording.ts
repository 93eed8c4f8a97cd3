/** One sentence for every kind of a union; it does not compile while a kind is missing. */
export type Wording<T extends { kind: string }> = {
  [K in T['kind']]: (of: Extract<T, { kind: K }>) => string
}

/** The sentence for one member of the union. */
export function say<T extends { kind: string }>(wording: Wording<T>, of: T): string {
  const sentence = wording[of.kind as T['kind']] as (of: T) => string
  return sentence(of)
}
