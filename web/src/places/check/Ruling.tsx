import { useState } from 'react'
import type { NewReview, ResultSpec } from '@/api'
import { dayAndTime, Failure } from '@/ui'
import type { Judged } from './stacks'

/** What is being said of an answer. */
export type Saying = 'override' | 'comment' | null

/** What an instructor has said of this answer, and the form to say something. */
export function Ruling({
  judged,
  spec,
  saying,
  remarks,
  alike,
  error,
  onSaying,
  onTakeBack,
  onSay,
}: {
  judged: Judged
  spec: ResultSpec | undefined
  saying: Saying
  remarks: readonly string[]
  alike: number
  error: Error | null
  onSaying: (saying: Saying) => void
  onTakeBack: () => void
  onSay: (what: Pick<NewReview, 'ruling' | 'marks' | 'comment'>) => void
}) {
  const accepts = spec?.answer === 'words' ? 'It is right' : 'Accept'
  const review = judged.sheet.reviews[spec?.name ?? '']
  return (
    <section aria-label="what holds" className="border-t border-rule pt-3">
      {review && (
        <p className="text-note text-slate">
          <b className="text-ink">
            {review.ruling === 'as-judged'
              ? 'as judged'
              : review.ruling === 'right'
                ? 'ruled right'
                : 'ruled wrong'}
            {review.marks != null && `, ${review.marks} marks`}
          </b>{' '}
          {review.by}, {dayAndTime(review.at)}
          {!review.current && ' · of an earlier answer; this one has not been looked at'}
          {review.current && (
            <button
              type="button"
              className="ml-2 min-h-6 text-copper-text underline underline-offset-4 print:hidden"
              onClick={onTakeBack}
            >
              take it back
            </button>
          )}
          {review.comment && <span className="block text-ink">“{review.comment}”</span>}
        </p>
      )}
      {saying === null ? (
        <p className="mt-2 flex flex-wrap gap-x-5 gap-y-1 print:hidden">
          <button
            type="button"
            className="action"
            onClick={() => {
              onSay({ ruling: 'as-judged', marks: null, comment: '' })
            }}
          >
            {accepts}
            {alike > 1 ? ` for all ${alike}` : ''}
          </button>
          <button
            type="button"
            className="min-h-11 underline underline-offset-4"
            onClick={() => {
              onSaying('override')
            }}
          >
            Override
          </button>
          <button
            type="button"
            className="min-h-11 underline underline-offset-4"
            onClick={() => {
              onSaying('comment')
            }}
          >
            Comment
          </button>
        </p>
      ) : (
        <SayForm
          key={`${saying} ${judged.answer.id}`}
          saying={saying}
          wasRight={['right', 'carried-forward', 'to-read'].includes(judged.verdict.value.kind)}
          most={spec?.most ?? 0}
          remarks={remarks}
          onLeave={() => {
            onSaying(null)
          }}
          onSay={onSay}
        />
      )}
      {error && <Failure error={error}>Nothing was kept; say it again.</Failure>}
    </section>
  )
}

function SayForm({
  saying,
  wasRight,
  most,
  remarks,
  onLeave,
  onSay,
}: {
  saying: 'override' | 'comment'
  wasRight: boolean
  most: number
  remarks: readonly string[]
  onLeave: () => void
  onSay: (what: Pick<NewReview, 'ruling' | 'marks' | 'comment'>) => void
}) {
  const [right, setRight] = useState(!wasRight)
  const [marks, setMarks] = useState('')
  const [comment, setComment] = useState('')
  const override = saying === 'override'
  return (
    <form
      className="mt-2 flex max-w-xl flex-col gap-3"
      onKeyDown={(event) => {
        if (event.key === 'Escape') onLeave()
      }}
      onSubmit={(event) => {
        event.preventDefault()
        onSay({
          ruling: override ? (right ? 'right' : 'wrong') : 'as-judged',
          marks: marks.trim() === '' ? null : marks.trim(),
          comment: comment.trim(),
        })
      }}
    >
      {override && (
        <p className="flex flex-wrap items-center gap-x-6 gap-y-2">
          {([true, false] as const).map((is) => (
            <label key={String(is)} className="flex min-h-11 items-center gap-2">
              <input
                type="radio"
                className="accent-copper"
                name="ruling"
                checked={right === is}
                onChange={() => {
                  setRight(is)
                }}
              />
              {is ? 'it is right' : 'it is wrong'}
            </label>
          ))}
          {most > 0 && (
            <label className="flex items-center gap-2">
              marks, of {most}
              <input
                className="field w-20"
                inputMode="decimal"
                value={marks}
                onChange={(event) => {
                  setMarks(event.target.value)
                }}
              />
            </label>
          )}
        </p>
      )}
      <label className="flex flex-col gap-1">
        {override ? 'why, for the group to read' : 'remark, for the group to read'}
        <input
          className="field"
          maxLength={300}
          autoFocus
          list="remarks"
          value={comment}
          onChange={(event) => {
            setComment(event.target.value)
          }}
        />
        <datalist id="remarks">
          {remarks.map((r) => (
            <option key={r} value={r} />
          ))}
        </datalist>
      </label>
      <p className="flex gap-5">
        <button type="submit" className="action" disabled={comment.trim() === ''}>
          Save
        </button>
        <button type="button" className="min-h-11 underline underline-offset-4" onClick={onLeave}>
          Leave it
        </button>
      </p>
    </form>
  )
}
