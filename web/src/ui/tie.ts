import type { Line, Token } from '@/api'

/** One number of a worked solution and what stood in its place. */
export interface Tie {
  /** As it is told, perhaps with fewer digits: `246.47`. */
  right: string
  instead: string
}

/** Whether a number of a line is the one that is told. */
export function isTied(piece: Token, tie: Tie): boolean {
  const decimals = tie.right.split('.')[1]?.length ?? 0
  const off = Math.abs(Number(piece.text) - Number(tie.right))
  return piece.kind === 'number' && off <= 0.5001 * 10 ** -decimals
}

/** Whether a line holds the number that is told. */
export const showsTie = (line: Line, tie: Tie | undefined) =>
  tie !== undefined && line.numbers.some((t) => isTied(t, tie))
