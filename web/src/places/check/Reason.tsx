import type { CheckView, ResultSpec } from '@/api'
import { dayAndTime, MarginNote } from '@/ui'
import { Ruling, type Saying } from './Ruling'
import type { Judged } from './stacks'

/** A reason in words: the sentence as it was sent, and beside it what a good one says. */
export function Reason({
  view,
  spec,
  judged,
  alike,
  saying,
  error,
  onSaying,
  onTakeBack,
  onSay,
}: {
  view: CheckView
  spec: ResultSpec
  judged: Judged
  alike: readonly Judged[]
  saying: Saying
  error: Error | null
  onSaying: (saying: Saying) => void
  onTakeBack: () => void
  onSay: Parameters<typeof Ruling>[0]['onSay']
}) {
  const { sheet, answer } = judged
  const numbers = view.results.filter((r) => r.answer !== 'words' && sheet.answers[r.name])
  return (
    <section
      aria-label={`${sheet.name}'s answer`}
      className="grid gap-x-8 desk:grid-cols-[minmax(0,1fr)_15rem]"
    >
      <div>
        <p className="mb-1.5 text-note text-slate">
          <b className="text-body text-ink">{sheet.name}</b>
          {alike.length > 1 && ` and ${alike.length - 1} with the same words`}
        </p>
        <blockquote className="max-w-prose border-t border-ink py-4 text-lead whitespace-pre-line">
          {answer.text}
        </blockquote>
        <Ruling
          judged={judged}
          spec={spec}
          saying={saying}
          remarks={view.remarks}
          alike={alike.filter((j) => !j.reviewed).length}
          error={error}
          onSaying={onSaying}
          onTakeBack={onTakeBack}
          onSay={onSay}
        />
      </div>
      <aside aria-label="margin" className="flex flex-col gap-4 border-l border-copper pl-5 max-desk:mt-6">
        {spec.model !== '' && <MarginNote head="A good answer says:">{spec.model}</MarginNote>}
        {numbers.length > 0 && (
          <MarginNote head="Their numbers:">
            {numbers.map((r) => (
              <span key={r.name} className="block">
                {r.label}{' '}
                <span className="font-mono">
                  {view.labels[sheet.answers[r.name]?.text ?? ''] ?? sheet.answers[r.name]?.text}{' '}
                  {sheet.answers[r.name]?.unit}
                </span>
              </span>
            ))}
          </MarginNote>
        )}
        <p className="text-note text-slate">
          sent {dayAndTime(answer.at)}
          {spec.most > 0 && ` · ${sheet.given[spec.name] ?? 0} of ${spec.most} marks`}
        </p>
      </aside>
    </section>
  )
}
