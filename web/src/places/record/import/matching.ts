import type { Board, ColumnOf, Grid, GridCell } from '@/api'

/** What a column of a sheet can be: a place at the bench, an answer, or the names. */
export interface Choice {
  /** As it is kept in the page: `reading m_dish`, `answer m_theory`. */
  key: string
  label: string
  of: ColumnOf
}

/** The column has the names of groups, or of students. */
export const NAMES = 'names'
/** The column is left out. */
export const NOTHING = ''

/** Everything that a column can be in a run. */
export function choicesOf(board: Pick<Board, 'readings' | 'results'>): Choice[] {
  const readings = board.readings.map((r) => ({
    key: `reading ${r.symbol}`,
    label: `${r.label}, ${r.unit}`,
    of: { kind: 'reading' as const, symbol: r.symbol },
  }))
  const answers = board.results
    .filter((r) => r.asked)
    .map((r) => ({
      key: `answer ${r.name}`,
      label: `answer: ${r.label}${r.unit === '' || r.unit === '1' ? '' : `, ${r.unit}`}`,
      of: { kind: 'answer' as const, result: r.name, unit: r.unit === '1' ? '' : r.unit },
    }))
  return [...readings, ...answers]
}

/** What stands in a cell, for reading. */
export function shown(cell: GridCell | undefined): string {
  return cell === undefined || cell.is === 'nothing' ? '' : cell.text
}

/** The words at the head of each column. */
export function headOf(grid: Grid, row: number): string[] {
  return (grid.rows[row] ?? []).map(shown)
}

/**
 * What each column is taken for before anybody has said: what was said last time for a column of this head, the name of a
 * place word for word, or nothing. The first column that says nothing else has the names.
 */
export function proposed(
  head: readonly string[],
  choices: readonly Choice[],
  remembered: Readonly<Record<string, string>>,
): string[] {
  const taken = new Set<string>()
  const known = head.map((words) => {
    const before = remembered[words]
    const choice = choices.find((c) => c.key === before) ?? choices.find((c) => same(c.label, words))
    const key = before === NAMES || before === NOTHING ? before : (choice?.key ?? null)
    if (key === null || (key !== NOTHING && taken.has(key))) return null
    taken.add(key)
    return key
  })
  const names = taken.has(NAMES) ? -1 : known.indexOf(null)
  return known.map((key, i) => key ?? (i === names ? NAMES : NOTHING))
}

function same(label: string, words: string): boolean {
  const plain = (text: string) => text.toLowerCase().replaceAll(/\s+/g, ' ').trim()
  const [name, unit = ''] = [label.replace(/, [^,]*$/, ''), /, ([^,]*)$/.exec(label)?.[1]]
  return [label, name, `${name} / ${unit}`, `${name} (${unit})`].some((l) => plain(l) === plain(words))
}

/** A cell as a spreadsheet calls it: `C7`. */
export function address(row: number, column: number): string {
  let letters = ''
  for (let n = column + 1; n > 0; n = Math.floor((n - 1) / 26)) {
    letters = String.fromCharCode(65 + ((n - 1) % 26)) + letters
  }
  return `${letters}${row + 1}`
}
