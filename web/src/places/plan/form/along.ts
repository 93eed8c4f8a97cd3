import type { Edit, PracticalFile } from '@/api'
import type { Path } from '../path'

/** An edit that puts a value in its place. */
export function setAt(path: Path, value: unknown): Edit {
  return { kind: 'set', path: [...path], value }
}

/**
 * What changes along with a planned amount: the readings of that material expect it, and lie within its band. Otherwise
 * one fact would stand in the file in two ways.
 */
export function along(file: PracticalFile, path: Path, next: unknown): Edit[] | null {
  const [section, at, key] = path
  if (section !== 'materials' || key !== 'planned' || typeof next !== 'string') return null
  const symbol = file.materials?.[Number(at)]?.symbol
  const written = /^([\d.,]+)\s*(?:±\s*([\d.,]+))?\s*(\S+)$/.exec(next.trim())
  if (!written) return null
  const [, value = '', band, unit] = written
  const number = Number(value.replace(',', '.'))
  const edits: Edit[] = [setAt(path, next)]
  for (const [i, reading] of (file.readings ?? []).entries()) {
    if (reading.of !== symbol || reading.unit !== unit || isDifference(file, reading.symbol)) continue
    edits.push(setAt(['readings', i, 'expected'], number.toFixed(reading.decimals)))
    const [low = 0, high = 0] = reading.range
    const half = band === undefined ? Math.max((high - low) / 2, 0) : Number(band.replace(',', '.'))
    const round = (n: number) => Number(n.toFixed(reading.decimals + 1))
    if (band !== undefined || number < low || number > high) {
      edits.push(setAt(['readings', i, 'range'], [round(number - half), round(number + half)]))
    }
  }
  return edits
}

function isDifference(file: PracticalFile, symbol: string): boolean {
  return (file.weighings ?? []).some((w) => w.scheme !== 'tared' && JSON.stringify(w).includes(`"${symbol}"`))
}
