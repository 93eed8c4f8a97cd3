import type { ResultSpec } from '@/api'

/** An answer as it stands on a paper, read for the record. */
export interface FromPaper {
  text: string
  unit: string
}

/**
 * What is typed into a cell: `6.16` is in the unit asked for, `6160 mg` says its own, and `6.16 -` had none on the paper.
 * A reagent may be named by the beginning of its name, where only one begins so.
 */
export function readCell(
  typed: string,
  spec: Pick<ResultSpec, 'answer' | 'unit' | 'units' | 'reagents'>,
): FromPaper {
  const text = typed.trim()
  switch (spec.answer) {
    case 'number':
      return number(text, spec)
    case 'limiting': {
      const begins = (of: string) => of.toLowerCase().startsWith(text.toLowerCase())
      const [one, another] = spec.reagents.filter(({ symbol, name }) => symbol === text || begins(name))
      return { text: one && !another ? one.symbol : text, unit: '' }
    }
    case 'formula':
    case 'words':
      return { text, unit: '' }
  }
}

function number(text: string, spec: Pick<ResultSpec, 'unit' | 'units'>): FromPaper {
  const without = /^(.*\d)\s*[-–]$/.exec(text)
  if (without?.[1] !== undefined) return { text: without[1], unit: '' }
  // The longest first: mmol/L before L.
  const units = [...spec.units, spec.unit].filter((u) => u !== '1').sort((a, b) => b.length - a.length)
  const unit = units.find((u) => text.endsWith(u) && /[\d\s]$/.test(text.slice(0, -u.length)))
  return unit === undefined ? { text, unit: spec.unit } : { text: text.slice(0, -unit.length).trim(), unit }
}

/** Cells as a spreadsheet puts them on the clipboard: lines, and tabs between. */
export function pasted(text: string): string[][] {
  const lines = text.replace(/\r\n?/g, '\n').replace(/\n$/, '').split('\n')
  return lines.map((line) => line.split('\t'))
}
