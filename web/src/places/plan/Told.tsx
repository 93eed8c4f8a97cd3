import type { Note } from '@/api'
import { MarginNote, StateMark } from '@/ui'
import { consequenceWords } from '@/words'

/** One consequence in words, with a mark where it does not add up. */
export function Told({ note }: { note: Note }) {
  const { head, body } = consequenceWords(note.what)
  return (
    <MarginNote head={head}>
      {note.warns && (
        <>
          <StateMark kind="doubtful" word="look at this" />{' '}
        </>
      )}
      {body}
    </MarginNote>
  )
}
