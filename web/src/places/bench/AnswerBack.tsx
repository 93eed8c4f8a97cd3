import type { Asked, BenchView, GivenBack, Hint } from '@/api'
import { StateMark, type StateKind } from '@/ui'
import { benchMarkName, benchMarkWords, placeWords, slipHint } from '@/words'

/** What there is to know of an answer at the bench: what was given back, or a hint at once where the practical says so. */
export function AnswerBack({ view, slot, asked }: { view: BenchView; slot: string; asked: Asked }) {
  const given = view.feedback.given_back[slot]
  if (given) return <Given given={given} asked={asked} labels={labelsOf(view)} />
  const hint = view.feedback.at_once[slot]
  return hint ? <AtOnce hint={hint} label={asked.label} labels={labelsOf(view)} /> : null
}

/** What readings, materials and results are called at this bench. */
function labelsOf(view: BenchView): Record<string, string> {
  const named = view.readings.flatMap((r) => [
    [r.reading, r.label],
    [r.symbol, r.label],
  ])
  return Object.fromEntries([
    ...named,
    ...view.materials.map((m) => [m.symbol, m.name]),
    ...view.asked.map((a) => [a.name, a.label]),
    ...Object.entries(view.feedback.labels),
  ]) as Record<string, string>
}

const stands: Record<GivenBack['stands'], { state: StateKind; words: string }> = {
  right: { state: 'settled', words: 'right' },
  'carried-forward': { state: 'settled', words: 'right with your own earlier value' },
  written: { state: 'doubtful', words: 'the number is right' },
  wrong: { state: 'wrong', words: 'not right' },
  open: { state: 'doubtful', words: 'could not be judged' },
}

const unread = { state: 'waiting', words: 'not read yet' } as const

function Given({ given, asked, labels }: { given: GivenBack; asked: Asked; labels: Record<string, string> }) {
  const { label } = asked
  const inWords = asked.answer === 'words'
  const { state, words } = inWords && given.stands === 'open' ? unread : stands[given.stands]
  const slip = given.slips[0]
  return (
    <div role="group" aria-label={`given back: ${label}`} className="border-l-4 border-copper py-1 pl-3">
      <p>
        <StateMark kind={state} /> <b className="font-semibold">{label}</b>: {given.answer}{' '}
        {placeWords(given.unit, {})} {inWords ? '·' : 'is'} {words}
        {given.most > 0 && ` · ${given.marks} of ${given.most} marks`}
      </p>
      {slip && <p className="text-body">{capital(slipHint(slip.slip, slip.at, labels))}.</p>}
      {given.comment && <p className="text-body">“{given.comment}”</p>}
      {given.expected != null && (
        <p className="text-body">
          {inWords ? (
            <>A good answer says: {given.expected}</>
          ) : (
            <>
              By your readings it is <span className="font-mono">{given.expected}</span>.
            </>
          )}
        </p>
      )}
    </div>
  )
}

function AtOnce({ hint, label, labels }: { hint: Hint; label: string; labels: Record<string, string> }) {
  const words = hint.words ?? (hint.slip != null ? slipHint(hint.slip, hint.at ?? '', labels) : null)
  return (
    <p role="status" className="border-l-4 border-rule py-1 pl-3">
      <StateMark kind={hint.right ? 'settled' : hint.number_right ? 'doubtful' : 'wrong'} />{' '}
      <b className="font-semibold">{label}</b>:{' '}
      {hint.right
        ? 'right.'
        : hint.number_right
          ? `the number is right; ${words ?? 'look again at how it is written'}.`
          : words !== null
            ? `not yet: ${words}.`
            : 'not yet right.'}
    </p>
  )
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

const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1)
