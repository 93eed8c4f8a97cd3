import type { Board, Entered, Finding, ReadingSpec, ResultOutcome, Row } from '@/api'
import type { Dot, StateKind } from '@/ui'
import { answerState } from '@/words'

/** A column of the board: a reading or a result, in bench order. */
export type Column =
  | {
      kind: 'reading'
      key: string
      /** The places that it stands for, in order: one, or all points of a series. */
      slots: readonly string[]
      label: string
      short: string
      unit: string
      low: number
      high: number
      band: [number, number]
      decimals: number
    }
  | { kind: 'result'; key: string; label: string; unit: string; asked: boolean; low: number; high: number }

/** What one cell of the board shows. */
export type Cell =
  | { kind: 'empty' }
  | { kind: 'reading'; entered: Entered; findings: readonly Finding[]; state: StateKind }
  | {
      kind: 'result'
      text: string
      outcome: ResultOutcome
      answer: Entered | null
      state: StateKind
      doubtful: boolean
    }

/** The columns, each with the stretch that its strip shows: the expected band and as much again beside it. */
export function columnsOf(board: Board): Column[] {
  const readings = folded(board.readings).map(({ first: r, slots }): Column => {
    const [low = 0, high = 1] = r.range
    const margin = (high - low) * 0.5
    return {
      kind: 'reading',
      key: r.symbol,
      slots,
      label: slots.length > 1 ? `${r.label.split(',')[0] ?? r.label}, the last of them` : r.label,
      short: slots.length > 1 ? r.short.replace(/ \d+$/, '') : r.short,
      unit: r.unit,
      decimals: r.decimals,
      low: low - margin,
      high: high + margin,
      band: [low, high],
    }
  })
  const results = board.results.map((r): Column => {
    const values = board.rows.flatMap((row) => valueOf(row, r.name) ?? [])
    const middle = median(values)
    const percent = r.unit === '%'
    return {
      kind: 'result',
      key: r.name,
      label: r.label,
      unit: r.unit,
      asked: r.asked,
      low: percent ? 40 : middle * 0.9,
      high: percent ? 110 : Math.max(middle * 1.1, 1e-9),
    }
  })
  return [...readings, ...results]
}

/** Readings, a series or portions taken together: nobody reads forty columns of one thermometer. */
function folded(readings: Board['readings']): { first: ReadingSpec; slots: string[] }[] {
  const openEnded = (r: ReadingSpec) => r.axis === 'point' || r.axis === 'portion'
  const out: { first: ReadingSpec; slots: string[] }[] = []
  for (const r of readings) {
    const known = openEnded(r) && out.find((o) => o.first.reading === r.reading)
    if (known) known.slots.push(r.symbol)
    else out.push({ first: r, slots: [r.symbol] })
  }
  return out
}

/** The last of some places at which something stands. */
export function lastOf(row: Row, slots: readonly string[]): string | undefined {
  return [...slots].reverse().find((s) => s in row.readings)
}

export function cellOf(row: Row, column: Column): Cell {
  if (column.kind === 'reading') {
    const last = lastOf(row, column.slots)
    const entered = last === undefined ? undefined : row.readings[last]
    if (!entered) return { kind: 'empty' }
    const findings = column.slots.flatMap((s) => row.outcome.findings[s] ?? [])
    return {
      kind: 'reading',
      entered,
      findings,
      state: entered.confirmed ? 'settled' : readingState(findings),
    }
  }
  const outcome = row.outcome.results.find((r) => r.name === column.key)
  if (outcome?.state.kind !== 'value') return { kind: 'empty' }
  const verdict = row.outcome.verdicts[column.key]
  const doubtful = row.outcome.yield_finding != null && column.unit === '%'
  return {
    kind: 'result',
    text: outcome.state.text,
    outcome,
    answer: row.answers[column.key] ?? null,
    state: verdict ? answerState(verdict) : 'waiting',
    doubtful,
  }
}

function readingState(findings: readonly Finding[]): StateKind {
  if (findings.length === 0) return 'settled'
  return findings.some(
    (f) =>
      f.kind === 'outside-range' || f.kind === 'lighter-than-container' || f.kind === 'below-its-partner',
  )
    ? 'wrong'
    : 'doubtful'
}

/** How many columns of a row are done, from the left: the class front runs through the last of them. */
export function frontOf(row: Row, columns: readonly Column[]): number {
  let last = 0
  columns.forEach((column, i) => {
    const filled = column.kind === 'reading' ? has(row, column) : column.key in row.answers
    if (filled) last = i + 1
  })
  // A row does not stand beyond a reading that it has not taken.
  const gap = columns.findIndex((c) => c.kind === 'reading' && !has(row, c))
  return gap < 0 ? last : Math.min(last, gap)
}

function has(row: Row, column: Extract<Column, { kind: 'reading' }>): boolean {
  return lastOf(row, column.slots) !== undefined
}

/** The dots of a column's strip. */
export function dotsOf(rows: readonly Row[], column: Column): Dot[] {
  return rows.flatMap((row): Dot[] => {
    const cell = cellOf(row, column)
    if (cell.kind === 'empty') return []
    const value =
      cell.kind === 'reading' ? Number(cell.entered.text.replace(',', '.')) : valueOf(row, column.key)
    if (value === undefined || Number.isNaN(value)) return []
    const odd = cell.kind === 'reading' ? cell.state !== 'settled' : cell.doubtful
    const wrong = cell.kind === 'reading' && cell.state === 'wrong'
    const tone = wrong ? 'wrong' : odd ? 'doubtful' : 'plain'
    return [{ value, tone, label: `${row.name} ${cell.kind === 'reading' ? cell.entered.text : cell.text}` }]
  })
}

function valueOf(row: Row, name: string): number | undefined {
  const state = row.outcome.results.find((r) => r.name === name)?.state
  return state?.kind === 'value' ? state.value : undefined
}

function median(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b)
  return sorted[Math.floor(sorted.length / 2)] ?? 1
}
