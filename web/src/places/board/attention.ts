import type { Board, Row, RunWait } from '@/api'
import { clockStands } from '@/ui'
import { adviceWords, answerState, answerWords, findingWords, yieldWords } from '@/words'
import type { Spot } from './BoardTable'
import { atWork, cellOf, type Column } from './columns'

/** Something for the instructor to look at. */
export interface Note extends Spot {
  name: string
  words: string
  tone: 'wrong' | 'doubtful'
}

/** Everything on the board that wants a look: calls for help first, then in bench order. */
export function attention(board: Board, columns: readonly Column[]): Note[] {
  const first = columns[0]?.key ?? ''
  const calls = atWork(board).flatMap((row): Note[] =>
    row.help == null
      ? []
      : [
          {
            group: row.group,
            key: first,
            name: row.name,
            tone: 'wrong',
            words: `calls for help${row.help === '' ? '' : ` at ${row.help}`}.`,
          },
        ],
  )
  const rest = atWork(board).flatMap((row) => [
    ...columns.flatMap((column) => notesOf(row, column)),
    ...adviceOf(row, first),
  ])
  return [...calls, ...rest]
}

function notesOf(row: Row, column: Column): Note[] {
  const at = { group: row.group, key: column.key, name: row.name }
  if (column.kind === 'reading') {
    const cell = cellOf(row, column)
    const tone = cell.kind === 'reading' && cell.state === 'wrong' ? 'wrong' : 'doubtful'
    const findings = cell.kind === 'reading' ? cell.findings : []
    return findings.map((f) => ({ ...at, tone, words: findingWords(f) }))
  }
  const notes: Note[] = []
  const cannotBe = row.outcome.yield_findings[column.key]
  if (cannotBe) notes.push({ ...at, tone: 'doubtful', words: yieldWords(cannotBe) })
  const verdict = row.outcome.verdicts[column.key]
  const state = verdict && answerState(verdict)
  if (verdict && (state === 'wrong' || state === 'doubtful')) {
    notes.push({ ...at, tone: state, words: `${column.label}: ${answerWords(verdict)}.` })
  }
  return notes
}

/** What is told at the bench and not beside a reading: only what stands badly. */
function adviceOf(row: Row, key: string): Note[] {
  return row.outcome.advice.flatMap((a): Note[] => {
    // The yield is told beside its own column.
    if (a.standing === 'settled' || a.standing === 'waiting' || a.matter.kind === 'above-theory') return []
    return [{ group: row.group, key, name: row.name, tone: a.standing, words: adviceWords(a) }]
  })
}

/** A clock that runs at a bench. */
export interface Due {
  name: string
  step: string
  stands: ReturnType<typeof clockStands>
  seconds: number
}

/** The clocks of the class that run down or have run out, the most urgent first. */
export function due(board: Board, now: number): Due[] {
  const all = atWork(board).flatMap((row) =>
    row.clocks.flatMap((c): Due[] => {
      if (c.stopped != null || c.seconds == null) return []
      return [
        { name: row.name, step: board.steps[c.step] ?? '', stands: clockStands(c, now), seconds: c.seconds },
      ]
    }),
  )
  const left = (d: Due) =>
    d.stands.kind === 'down' ? d.stands.left : d.stands.kind === 'out' ? -d.stands.over : 0
  return all.sort((a, b) => left(a) - left(b))
}

/** What waits at the benches and needs nobody, gathered by step. */
export function leftToWait(board: Board): RunWait[] {
  const bySteps = new Map<number, RunWait>()
  for (const row of atWork(board)) {
    for (const w of row.outcome.waiting) {
      const one = bySteps.get(w.step)
      const latest = [one?.latest_at, w.latest_at].filter((t) => t != null)
      bySteps.set(w.step, {
        step: w.title,
        then: w.then_title ?? null,
        groups: [...(one?.groups ?? []), row.name],
        since: Math.min(one?.since ?? w.since, w.since),
        ready_at: Math.max(one?.ready_at ?? w.ready_at, w.ready_at),
        latest_at: latest.length === 0 ? null : Math.min(...latest),
      })
    }
  }
  return [...bySteps.entries()].sort(([a], [b]) => a - b).map(([, wait]) => wait)
}
