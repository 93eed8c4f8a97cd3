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
      /** Where it should lie; none for a titre, of which nobody knows. */
      band: [number, number] | null
      decimals: number
      /** One trial of a titration: what is shown is the volume delivered. */
      titre: boolean
    }
  | { kind: 'result'; key: string; label: string; unit: string; asked: boolean; low: number; high: number }

/** What one cell of the board shows. */
export type Cell =
  | { kind: 'empty' }
  | {
      kind: 'reading'
      /** What is shown: as typed, or the volume delivered. */
      text: string
      /** Something of it is there, and not yet what is shown at the end. */
      partly: boolean
      entered: Entered
      findings: readonly Finding[]
      state: StateKind
    }
  | {
      kind: 'result'
      text: string
      outcome: ResultOutcome
      answer: Entered | null
      state: StateKind
      doubtful: boolean
    }

/** The groups at a bench of their own: those that have gone on with another one are not among them. */
export function atWork(board: Board): Row[] {
  return board.rows.filter((r) => r.merged_into == null)
}

/** The columns, each with the stretch that its strip shows: the expected band and as much again beside it. */
export function columnsOf(board: Board): Column[] {
  const readings = folded(board).map((fold): Column => {
    const [low = 0, high = 1] = fold.first.range
    const margin = (high - low) * 0.5
    const common = {
      kind: 'reading' as const,
      key: fold.first.symbol,
      slots: fold.slots,
      unit: fold.last.unit,
    }
    if (fold.trial !== undefined) {
      const middle = median(board.rows.flatMap((row) => deliveredIn(row, fold.slots) ?? []).map(Number))
      return {
        ...common,
        label: `titre, ${fold.last.axis ?? 'trial'} ${fold.trial}`,
        short: `titre ${fold.trial}`,
        decimals: fold.last.decimals,
        titre: true,
        low: middle * 0.85,
        high: middle * 1.15,
        band: null,
      }
    }
    const many = fold.slots.length > 1
    return {
      ...common,
      label: many
        ? `${fold.first.label.split(',')[0] ?? fold.first.label}, the last of them`
        : fold.first.label,
      short: many ? fold.first.short.replace(/ \d+$/, '') : fold.first.short,
      decimals: fold.first.decimals,
      titre: false,
      low: low - margin,
      high: high + margin,
      band: [low, high],
    }
  })
  // A reason in words has no place on a scale; it is read in Check.
  const worked = board.results.filter((r) => r.answer !== 'words')
  const results = worked.map((r): Column => {
    const middles = middlesOf(board.rows, r.name)
    const [lowest, highest] = [Math.min(...middles), Math.max(...middles)]
    // A yield lies somewhere below 100 %; a small part has a scale of its own.
    const percent = r.part_of_a_whole && r.unit === '%' && lowest > 20
    return {
      kind: 'result',
      key: r.name,
      label: r.label,
      unit: r.unit,
      asked: r.asked,
      low: percent ? 40 : lowest * 0.9,
      high: percent ? 110 : Math.max(highest * 1.1, 1e-9),
    }
  })
  return [...readings, ...results]
}

/** The middle of a result's values among the groups of each recipe that have any: recipes may be planned to differ. */
function middlesOf(rows: readonly Row[], result: string): number[] {
  const recipes = [...new Set(rows.map((row) => row.allotted.assignment))]
  const of = (recipe: Row['allotted']['assignment']) => rows.filter((r) => r.allotted.assignment === recipe)
  const values = recipes.map((recipe) => of(recipe).flatMap((row) => valueOf(row, result) ?? []))
  const middles = values.filter((v) => v.length > 0).map(median)
  return middles.length > 0 ? middles : [median([])]
}

/** Readings that share a column. */
interface Fold {
  first: ReadingSpec
  last: ReadingSpec
  slots: string[]
  /** Of a titration, which trial. */
  trial?: number
}

/**
 * Readings that share a column: one trial of a titration with its weighings, and all points of a series. Nobody reads
 * forty columns of one thermometer, or sixteen of a burette. Trials that no group has begun are not shown.
 */
function folded(board: Board): Fold[] {
  const titrations = new Set(board.readings.flatMap((r) => (r.delivers && r.axis != null ? [r.axis] : [])))
  const out: Fold[] = []
  for (const r of board.readings) {
    const trial = r.axis != null && titrations.has(r.axis) ? trialOf(r) : undefined
    const known = out.find((o) =>
      trial === undefined
        ? r.open_ended && o.first.reading === r.reading
        : o.trial === trial && o.first.axis === r.axis,
    )
    if (known) {
      known.slots.push(r.symbol)
      known.last = r
    } else out.push({ first: r, last: r, slots: [r.symbol], ...(trial !== undefined && { trial }) })
  }
  const begun = (f: Fold) => board.rows.some((row) => lastOf(row, f.slots) !== undefined)
  return out.filter((f) => f.trial === undefined || f.trial === 1 || begun(f))
}

function trialOf(r: ReadingSpec): number {
  return Number(/\[(\d+)\]$/.exec(r.symbol)?.[1] ?? 1)
}

/** The volume delivered in one trial, once both readings are there. */
function deliveredIn(row: Row, slots: readonly string[]): string | undefined {
  const end = slots.find((s) => s in row.outcome.delivered)
  return end === undefined ? undefined : row.outcome.delivered[end]
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
    const open = column.slots.filter((s) => row.readings[s]?.confirmed !== true)
    const findings = open.flatMap((s) => row.outcome.findings[s] ?? [])
    const delivered = deliveredIn(row, column.slots)
    return {
      kind: 'reading',
      text: column.titre ? (delivered ?? '···') : entered.text,
      partly: column.titre && delivered === undefined,
      entered,
      findings,
      state: stateOf(row, open),
    }
  }
  const outcome = row.outcome.results.find((r) => r.name === column.key)
  if (outcome?.state.kind !== 'value') return { kind: 'empty' }
  const verdict = row.outcome.verdicts[column.key]
  const doubtful = column.key in row.outcome.yield_findings
  return {
    kind: 'result',
    text: outcome.state.text,
    outcome,
    answer: row.answers[column.key] ?? null,
    state: verdict ? answerState(verdict) : 'waiting',
    doubtful,
  }
}

/** How the readings of some places stand together: by the worst of them. */
function stateOf(row: Row, slots: readonly string[]): StateKind {
  const standings = slots.map((s) => row.outcome.standings[s])
  if (standings.includes('wrong')) return 'wrong'
  return standings.includes('doubtful') ? 'doubtful' : 'settled'
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
    const value = cell.kind === 'reading' ? Number(cell.text.replace(',', '.')) : valueOf(row, column.key)
    if (value === undefined || Number.isNaN(value)) return []
    const odd = cell.kind === 'reading' ? cell.state !== 'settled' : cell.doubtful
    const wrong = cell.kind === 'reading' && cell.state === 'wrong'
    const tone = wrong ? 'wrong' : odd ? 'doubtful' : 'plain'
    return [{ value, tone, label: `${row.name} ${cell.text}` }]
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
