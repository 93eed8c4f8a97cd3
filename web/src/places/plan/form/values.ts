import { numberOf } from '@/ui'

/** Between what a field shows and what stands in the file. Nothing here knows React. */

/** What a person reads of a value: lines, `a = b` pairs, numbers with commas. */
export function shown(value: unknown, kind: string): string {
  if (value === null || value === undefined) return ''
  switch (kind) {
    case 'lines':
      return Array.isArray(value) ? value.map(String).join('\n') : ''
    case 'numbers':
    case 'pair':
      return Array.isArray(value) ? value.map(String).join(', ') : ''
    case 'map':
      return Object.entries(value as Record<string, unknown>)
        .map(([k, v]) => `${k} = ${String(v)}`)
        .join('\n')
    default:
      return typeof value === 'string' ? value : JSON.stringify(value)
  }
}

/** What a typed text stands for; an error in words where it stands for nothing. */
export function read(text: string, kind: string): { value: unknown } | { error: string } {
  const plain = text.trim()
  switch (kind) {
    case 'number': {
      if (plain === '') return { value: null }
      const number = numberOf(plain)
      return number === undefined ? { error: `“${plain}” is not a number` } : { value: number }
    }
    case 'numbers':
    case 'pair': {
      if (plain === '') return { value: null }
      // A comma with a digit on either side is a decimal comma; one with a blank behind it parts two numbers.
      const parts = plain.split(/;\s*|,\s+|\s+to\s+|\s+/).filter((p) => p !== '')
      const numbers = parts.flatMap((p) => numberOf(p) ?? [])
      if (numbers.length < parts.length) return { error: 'numbers, with a comma and a blank between them' }
      if (kind === 'pair' && numbers.length !== 2) return { error: 'two numbers: from, to' }
      return { value: numbers }
    }
    case 'lines': {
      const lines = text
        .split('\n')
        .map((l) => l.trim())
        .filter(Boolean)
      return { value: lines.length === 0 ? null : lines }
    }
    case 'map': {
      const pairs = text
        .split('\n')
        .map((l) => l.trim())
        .filter(Boolean)
        .map((l) => l.split('=').map((p) => p.trim()))
      const bad = pairs.find((p) => p.length !== 2 || p[0] === '' || p[1] === '')
      if (bad) return { error: `“${bad.join(' = ')}”: write name = value` }
      return {
        value: pairs.length === 0 ? null : Object.fromEntries(pairs.map(([k, v]) => [k ?? '', v ?? ''])),
      }
    }
    default:
      return { value: plain === '' ? null : text.trim() }
  }
}
