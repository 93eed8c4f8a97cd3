import type { Board, Row } from '@/api'
import { answerState, answerWords, findingWords, yieldWords } from '@/words'
import type { Spot } from './BoardTable'
import { cellOf, type Column } from './columns'

/** Something for the instructor to look at. */
export interface Note extends Spot {
  name: string
  words: string
  tone: 'wrong' | 'doubtful'
}

/** Everything on the board that wants a look, in bench order. */
export function attention(board: Board, columns: readonly Column[]): Note[] {
  return board.rows.flatMap((row) => columns.flatMap((column) => notesOf(row, column)))
}

function notesOf(row: Row, column: Column): Note[] {
  const at = { group: row.group, key: column.key, name: row.name }
  if (column.kind === 'reading') {
    const findings = row.outcome.findings[column.key] ?? []
    const cell = cellOf(row, column)
    const tone = cell.kind === 'reading' && cell.state === 'wrong' ? 'wrong' : 'doubtful'
    return findings.map((f) => ({ ...at, tone, words: findingWords(f) }))
  }
  const notes: Note[] = []
  if (row.outcome.yield_finding && column.unit === '%') {
    notes.push({ ...at, tone: 'doubtful', words: yieldWords(row.outcome.yield_finding) })
  }
  const verdict = row.outcome.verdicts[column.key]
  const state = verdict && answerState(verdict)
  if (verdict && (state === 'wrong' || state === 'doubtful')) {
    notes.push({ ...at, tone: state, words: `${column.label}: ${answerWords(verdict)}.` })
  }
  return notes
}
