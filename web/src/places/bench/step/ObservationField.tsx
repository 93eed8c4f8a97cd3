import { Label, Radio, RadioGroup } from '@headlessui/react'
import { useId } from 'react'
import type { ToObserve } from '@/api'
import { clockTime } from '@/ui'
import type { Filled } from '../standing'
import { useDraft } from '../useDraft'

/** Something to look at: the question, when to look, and what can be seen. */
export function ObservationField({
  asked,
  standing,
  closed,
  draftKey,
  onSeen,
}: {
  asked: ToObserve
  standing: Filled | undefined
  closed: boolean
  draftKey: string
  onSeen: (choice: string) => void
}) {
  const heading = (
    <>
      {asked.when !== '' && <span className="font-semibold text-copper-text">{asked.when}: </span>}
      {asked.question}
      {asked.controls && (
        <span className="mt-0.5 block text-body text-slate">
          compare with the controls: {asked.controls[0]} is positive, {asked.controls[1]} is negative
        </span>
      )}
    </>
  )
  if (asked.kind === 'note') {
    return (
      <NoteField heading={heading} standing={standing} closed={closed} draftKey={draftKey} onSeen={onSeen} />
    )
  }
  return (
    <RadioGroup
      value={standing?.text ?? null}
      disabled={closed}
      className="mb-5"
      onChange={(choice) => {
        if (choice !== null && choice !== standing?.text) onSeen(choice)
      }}
    >
      <Label className="mb-2 block">{heading}</Label>
      <div className="grid grid-cols-2 gap-2">
        {asked.choices.map((choice) => (
          <Radio
            key={choice}
            value={choice}
            className="flex min-h-14 cursor-pointer items-center gap-2 border border-rule bg-sheet px-3 data-checked:border-2 data-checked:border-teal data-checked:bg-teal-wash data-checked:font-semibold data-disabled:cursor-default"
          >
            {({ checked }) => (
              <>
                <svg
                  aria-hidden="true"
                  width="18"
                  height="12"
                  className={checked ? 'text-teal' : 'text-transparent'}
                >
                  <path d="M2 3q7 7 14 0" fill="none" stroke="currentColor" strokeWidth="2.4" />
                </svg>
                {choice}
              </>
            )}
          </Radio>
        ))}
      </div>
      {standing?.held && <HeldNote />}
    </RadioGroup>
  )
}

/** Something told in the group's own words; what was written before stays in the record. */
function NoteField({
  heading,
  standing,
  closed,
  draftKey,
  onSeen,
}: {
  heading: React.ReactNode
  standing: Filled | undefined
  closed: boolean
  draftKey: string
  onSeen: (words: string) => void
}) {
  const id = useId()
  const [text, setText] = useDraft(draftKey)
  return (
    <form
      className="mb-5"
      onSubmit={(event) => {
        event.preventDefault()
        if (text.trim() === '') return
        onSeen(text.trim())
        setText('')
      }}
    >
      <label htmlFor={id} className="mb-2 block">
        {heading}
      </label>
      {standing && (
        <p className="mb-2 border-l-2 border-copper pl-3">
          {standing.text} <span className="text-body text-slate">{clockTime(standing.at)}</span>
        </p>
      )}
      {standing?.held && <HeldNote />}
      {!closed && (
        <div className="flex gap-2">
          <textarea
            id={id}
            rows={2}
            maxLength={500}
            className="field min-h-14 grow"
            value={text}
            onChange={(event) => {
              setText(event.target.value)
            }}
          />
          <button type="submit" className="action min-h-14" disabled={text.trim() === ''}>
            {standing ? 'Write again' : 'Note it'}
          </button>
        </div>
      )}
    </form>
  )
}

/** Beneath what has not arrived yet. */
export function HeldNote() {
  return <p className="mt-1 text-body text-amber-text">kept on this device; judged when connected</p>
}
