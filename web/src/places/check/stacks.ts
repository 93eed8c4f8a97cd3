import type { CheckView, Entered, Row, Verdict } from '@/api'
import type { StateKind } from '@/ui'
import { answerState, answerWords } from '@/words'

/** One group's answer to the result in question. */
export interface Judged {
  row: Row
  answer: Entered
  verdict: Verdict
}

/** Answers that are wrong, doubtful or right in the same way: reviewed at once. */
export interface Stack {
  key: string
  words: string
  state: StateKind
  ratio: string
  judged: Judged[]
}

const order: Record<StateKind, number> = { wrong: 0, doubtful: 1, waiting: 2, settled: 3 }

export function judgedOf(view: CheckView, result: string): Judged[] {
  return view.rows.flatMap((row) => {
    const answer = row.answers[result]
    const verdict = row.outcome.verdicts[result]
    return answer && verdict ? [{ row, answer, verdict }] : []
  })
}

/** Stacks, wrong first; within a state the largest first, then as the groups stand. */
export function stacksOf(judged: readonly Judged[]): Stack[] {
  const stacks = new Map<string, Stack>()
  for (const one of judged) {
    const words = answerWords(one.verdict)
    const state = answerState(one.verdict)
    // Right answers differ in their last digit; wrong ones belong together only when they are wrong by the same factor.
    const off = one.verdict.value.kind === 'right' ? '1.00' : (one.verdict.comparison?.ratio_shown ?? '')
    const key = `${words} ×${off}`
    const stack = stacks.get(key) ?? { key, words, state, ratio: off, judged: [] }
    stack.judged.push(one)
    stacks.set(key, stack)
  }
  return [...stacks.values()].sort(
    (a, b) => order[a.state] - order[b.state] || b.judged.length - a.judged.length,
  )
}

/** Ends of the spectrum's axis: a decade around right at least, and every answer inside. */
export function spectrumEnds(ratios: readonly number[]): [number, number] {
  const positive = ratios.filter((r) => r > 0 && Number.isFinite(r))
  const low = Math.min(0.5, ...positive)
  const high = Math.max(2, ...positive)
  return [low / 1.15, high * 1.15]
}

/** How high each dot stands so that none hides another while each stays at its true place along the line. */
export function levelsOf(along: readonly number[], width: number): number[] {
  const levels: number[] = []
  for (const [i, x] of along.entries()) {
    const taken = new Set(levels.filter((_, j) => Math.abs((along[j] ?? 0) - x) < width))
    let level = 0
    while (taken.has(level)) level += 1
    levels[i] = level
  }
  return levels
}
