import type { CheckView, Entered, Explanation, Row, SheetView, SlipTick, Verdict } from '@/api'
import { dayAndTime, type StateKind } from '@/ui'
import { answerState, answerWords, placeWords } from '@/words'

/** One answer to the result in question, on the sheet that it is on. */
export interface Judged {
  sheet: SheetView
  row: Row
  answer: Entered
  verdict: Verdict
  /** An instructor has looked at it as it stands now. */
  reviewed: boolean
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
  return view.sheets.flatMap((sheet) => {
    const row = view.rows.find((r) => r.group === sheet.group)
    const answer = sheet.answers[result]
    const verdict = sheet.verdicts[result]
    const reviewed = sheet.reviews[result]?.current ?? false
    return row && answer && verdict ? [{ sheet, row, answer, verdict, reviewed }] : []
  })
}

/** Stacks, wrong first; within a state the largest first, then as the groups stand. */
export function stacksOf(judged: readonly Judged[]): Stack[] {
  const stacks = new Map<string, Stack>()
  for (const one of judged) {
    const read = one.verdict.value.kind === 'to-read'
    const words = read ? one.answer.text : answerWords(one.verdict)
    const state = answerState(one.verdict)
    const named = one.verdict.value.kind === 'wrong' ? one.verdict.diagnosis.named[0] : undefined
    // Right answers differ in their last digit; a slip is the same whatever it came to; without a name only answers
    // that are wrong by the same factor belong together.
    const ratio = one.verdict.comparison?.ratio_shown ?? ''
    const off = one.verdict.value.kind === 'right' ? '1.00' : ratio
    const key = named ? `${words} ${placeWords(named.at)}` : read ? same(one.answer.text) : `${words} ×${off}`
    const stack = stacks.get(key) ?? { key, words, state, ratio: off, judged: [] }
    stack.judged.push(one)
    stacks.set(key, stack)
  }
  return [...stacks.values()].sort(
    (a, b) => order[a.state] - order[b.state] || b.judged.length - a.judged.length,
  )
}

/** A reason without what does not count in it: capitals, spaces, the full stop. */
const same = (text: string) =>
  text
    .toLowerCase()
    .replace(/[\s.]+/g, ' ')
    .trim()

/** A result and a stack of it that somebody still has to look at: the next one from here on, then from the beginning. */
export function nextOpen(
  view: CheckView,
  from: string,
  done: ReadonlySet<string>,
): { result: string; sheet: string } | undefined {
  const names = view.results.map((r) => r.name)
  const at = names.indexOf(from)
  for (const result of [...names.slice(at), ...names.slice(0, at)]) {
    const open = stacksOf(judgedOf(view, result)).flatMap((s) => s.judged)
    const next = open.find((j) => !j.reviewed && !done.has(j.answer.id))
    if (next) return { result, sheet: next.sheet.key }
  }
  return undefined
}

/** How many answers there are, and how many somebody has looked at. */
export function progress(view: CheckView): { reviewed: number; of: number } {
  const all = view.results.flatMap((r) => judgedOf(view, r.name))
  return { reviewed: all.filter((j) => j.reviewed).length, of: all.length }
}

/** A labelled tick of the spectrum. */
export interface Labelled {
  slip: SlipTick['slip']
  ratio: number
  /** Somebody's answer was explained by it. */
  named: boolean
}

/** Ticks of slips: those that were named, at the first answer they explain, then common ones nearest to right. */
export function labelledOf(judged: readonly Judged[], common: readonly SlipTick[], most: number): Labelled[] {
  const out: Labelled[] = []
  for (const j of judged) {
    const named: Explanation | undefined = j.verdict.diagnosis.named[0]
    const expected = j.verdict.comparison?.expected
    if (!named || expected === undefined || expected === 0) continue
    const ratio = named.value / expected
    if (ratio > 0 && !out.some((t) => t.slip === named.slip))
      out.push({ slip: named.slip, ratio, named: true })
  }
  for (const tick of common) {
    if (out.length >= most) break
    const near = out.some((t) => t.slip === tick.slip || Math.abs(Math.log(t.ratio / tick.ratio)) < 0.08)
    if (!near && tick.ratio > 0.08 && tick.ratio < 12) out.push({ ...tick, named: false })
  }
  return out
}

/** Ends of the spectrum's axis: a decade around right at least, and every answer inside. */
export function spectrumEnds(ratios: readonly number[]): [number, number] {
  const positive = ratios.filter((r) => r > 0 && Number.isFinite(r))
  const low = Math.min(0.5, ...positive)
  const high = Math.max(2, ...positive)
  return [low / 1.15, high * 1.15]
}

/** On which line each label stands so that none runs into another; from where to where each goes along the axis. */
export function linesOf(labels: readonly (readonly [number, number])[]): number[] {
  const lines: number[] = []
  for (const [i, [from, to]] of labels.entries()) {
    const meets = (j: number) => {
      const other = labels[j]
      return other !== undefined && from < other[1] + 8 && other[0] < to + 8
    }
    let line = 0
    while (lines.some((l, j) => j < i && l === line && meets(j))) line += 1
    lines[i] = line
  }
  return lines
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

/** Whether the sheets were given back, in a few words. */
export function releasedWords(view: CheckView): string {
  const given = view.sheets.filter((s) => s.released_at != null)
  if (given.length === 0) return 'given back to groups: not yet'
  const last = Math.max(...given.map((s) => s.released_at ?? 0))
  const changed = given.filter((s) => s.changed_since).length
  const all = given.length === view.sheets.length ? 'all' : `${given.length} of ${view.sheets.length}`
  return `given back: ${all}, ${dayAndTime(last)}${changed > 0 ? ` · ${changed} changed since` : ''}`
}
