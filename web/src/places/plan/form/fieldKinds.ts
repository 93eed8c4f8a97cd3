/** One field of an item: what it is called, where it stands in the item, and what it takes. */
export interface Field {
  key: string
  label: string
  takes: Takes
  /** An example, shown while the field is empty. */
  hint?: string
  /** Part of the line in the first place; the others are behind "more". */
  always?: boolean
}

export type Takes =
  | { kind: 'text' }
  | { kind: 'long' }
  | { kind: 'number' }
  | { kind: 'pair' }
  | { kind: 'flag' }
  | { kind: 'lines' }
  | { kind: 'numbers' }
  | { kind: 'map' }
  | { kind: 'choice'; of: readonly string[]; empty?: boolean }
  | { kind: 'names'; of: readonly string[] }
  | { kind: 'union'; tag: string; of: Readonly<Record<string, readonly Field[]>>; empty?: boolean }
  | { kind: 'group'; of: readonly Field[]; empty?: boolean }
  | { kind: 'rows'; of: readonly Field[] }

export const text = (key: string, label: string, hint?: string): Field => ({
  key,
  label,
  takes: { kind: 'text' },
  ...(hint === undefined ? {} : { hint }),
})
/** A reading, or a definition, by its name. */
export const used = (key: string, label: string) => text(key, label, 'a reading, or a name that is defined')
export const always = (field: Field): Field => ({ ...field, always: true })
export const choice = (key: string, label: string, of: readonly string[], empty = false): Field => ({
  key,
  label,
  takes: { kind: 'choice', of, empty },
})
export const names = (key: string, label: string, of: readonly string[]): Field => ({
  key,
  label,
  takes: { kind: 'names', of },
})
export const lines = (key: string, label: string): Field => ({ key, label, takes: { kind: 'lines' } })
export const flag = (key: string, label: string): Field => ({ key, label, takes: { kind: 'flag' } })
export const number = (key: string, label: string): Field => ({ key, label, takes: { kind: 'number' } })
