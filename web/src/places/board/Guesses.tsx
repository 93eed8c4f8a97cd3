import type { Board } from '@/api'
import { clockTime } from '@/ui'

/** A few wrong digits are a slip; more are somebody who guesses. */
const A_SLIP = 4

/** Told wherever the board is open: somebody guesses at a group's PIN. */
export function Guesses({ board }: { board: Board }) {
  const guessed = board.rows.flatMap(({ group, name, wrong_pins: wrong }) =>
    wrong && wrong.tries > A_SLIP ? [{ group, name, wrong }] : [],
  )
  return guessed.map(({ group, name, wrong }) => (
    <p key={group} role="status" className="mb-3 border-l-4 border-amber pl-3 text-amber-text">
      Somebody has typed {wrong.tries} wrong PINs for {name}, the last at {clockTime(wrong.at)} from{' '}
      {wrong.place}. The join code shows which devices are in.
    </p>
  ))
}
