import type { Asked, BenchView, GivenBack, Hint, Stands } from '@/api'
import { StateMark } from '@/ui'
import { benchMarkName, benchMarkWords, slipHint, standsState } from '@/words'

/** What there is to know of an answer at the bench: what was given back, or a hint at once where the practical says so. */
export function AnswerBack({ view, slot, asked }: { view: BenchView; slot: string; asked: Asked }) {
  const given = view.feedback.given_back[slot]
  if (given) return <Given given={given} asked={asked} />
  const hint = view.feedback.at_once[slot]
  return hint ? <AtOnce hint={hint} label={asked.label} /> : null
}

const stands: Record<Stands, string> = {
  right: 'is right',
  'carried-forward': 'is right, using your earlier answer',
  written: ': the number is right',
  wrong: 'is not right',
  open: 'could not be judged',
}

function Given({ given, asked }: { given: GivenBack; asked: Asked }) {
  const { label } = asked
  const inWords = asked.answer === 'words'
  const unread = inWords && given.stands === 'open'
  const slip = given.slips[0]
  return (
    <div role="group" aria-label={`given back: ${label}`} className="border-l-4 border-copper py-1 pl-3">
      <p>
        <StateMark kind={unread ? 'waiting' : standsState(given.stands)} />{' '}
        <b className="font-semibold">{label}</b>: {given.answer} {given.unit}
        {inWords && ' ·'} {unread ? 'not read yet' : stands[given.stands]}
        {given.most > 0 && ` · ${given.marks} of ${given.most} marks`}
      </p>
      {slip && <p className="text-body">{capital(slipHint(slip.slip, slip.at))}.</p>}
      {given.comment && <p className="text-body">“{given.comment}”</p>}
      {given.expected != null && (
        <p className="text-body">
          {inWords ? (
            <>A good answer says: {given.expected}</>
          ) : (
            <>
              By your readings it is <span className="font-mono">{given.expected}</span>
              {given.sure && sureWords(given.sure)}.
            </>
          )}
        </p>
      )}
    </div>
  )
}

function AtOnce({ hint, label }: { hint: Hint; label: string }) {
  const words = hint.words ?? (hint.slip != null ? slipHint(hint.slip, hint.at ?? label) : null)
  return (
    <p role="status" className="border-l-4 border-rule py-1 pl-3">
      <StateMark kind={standsState(hint.stands)} /> <b className="font-semibold">{label}</b>:{' '}
      {hintWords(hint.stands, words)}
    </p>
  )
}

/** How it stands, with what to look at again. */
function hintWords(stands: Stands, words: string | null): string {
  switch (stands) {
    case 'right':
      return 'right.'
    case 'carried-forward':
      return 'right, using your earlier answer.'
    case 'written':
      return `the number is right; ${ended(words ?? 'look again at how it is written')}`
    case 'wrong':
      return words === null ? 'not yet right.' : `not yet: ${ended(words)}`
    case 'open':
      return 'it cannot be judged yet.'
  }
}

/** Marks for the work at the bench, once a sheet was given back. */
export function BenchMarks({ marks }: { marks: BenchView['feedback']['bench_marks'] }) {
  if (marks.length === 0) return null
  return (
    <ul aria-label="marks for the work at the bench" className="border-l-4 border-copper py-1 pl-3">
      {marks.map((m) => (
        <li key={m.found.kind}>
          <b className="font-semibold">{benchMarkName(m)}</b> · {m.marks} of {m.most} marks
          <span className="block text-body">{benchMarkWords(m)}</span>
        </li>
      ))}
    </ul>
  )
}

/** How sure the value is, as the school shows it. */
function sureWords(sure: NonNullable<GivenBack['sure']>): string {
  switch (sure.kind) {
    case 'apparatus':
      return `, with an apparatus error of ${sure.percent}\u2009%`
    case 'expanded':
      return `, give or take ${sure.text}`
  }
}

/** A sentence that ends in a question has its end. */
const ended = (text: string) => (/[.?!]$/.test(text) ? text : `${text}.`)

const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1)
