import { useId, useState } from 'react'
import type { AskedToBegin, RunOfText } from '@/api'
import { Formula, StateMark } from '@/ui'
import { ASKED, whyWords } from '@/words'

/** One question: what stands there, and why it is proposed or what is wrong with it. */
export function Question({
  asked,
  said,
  balanced,
  onSay,
}: {
  asked: AskedToBegin
  said: string | undefined
  balanced: readonly RunOfText[] | undefined
  onSay: (value: string) => void
}) {
  const id = useId()
  const remark = `${id} remark`
  return (
    <div className="grid items-baseline gap-x-6 gap-y-1 border-b border-rule py-2 tablet:grid-cols-[13rem_22rem_1fr]">
      <label htmlFor={id} className="text-slate">
        {asked.about !== '' && `${asked.about} `}
        {ASKED[asked.field]}
      </label>
      <Answer id={id} remark={remark} asked={asked} said={said} onSay={onSay} />
      <p id={remark} className="text-note text-slate">
        {asked.problem != null ? (
          <span role="alert" className="text-oxblood-text">
            <StateMark kind="wrong" word="wrong" /> {asked.problem}
          </span>
        ) : (
          asked.why != null && asked.takes.kind !== 'yes-or-no' && whyWords(asked.why)
        )}
        {balanced && <Formula runs={balanced} />}
      </p>
    </div>
  )
}

function Answer({
  id,
  remark,
  asked,
  said,
  onSay,
}: {
  id: string
  remark: string
  asked: AskedToBegin
  said: string | undefined
  onSay: (value: string) => void
}) {
  // While it is being typed in, what was proposed does not come back into an emptied field.
  const [typing, setTyping] = useState<string | null>(null)
  const shown = typing ?? said ?? asked.value
  const common = { id, 'aria-describedby': remark, 'aria-invalid': asked.problem != null }
  switch (asked.takes.kind) {
    case 'yes-or-no':
      return (
        <input
          {...common}
          type="checkbox"
          className="size-5 accent-copper"
          checked={shown === 'yes'}
          onChange={(event) => {
            onSay(event.target.checked ? 'yes' : 'no')
          }}
        />
      )
    case 'choice': {
      const offered = asked.takes.of.includes(shown) ? asked.takes.of : [shown, ...asked.takes.of]
      return (
        <select
          {...common}
          className="field w-full"
          value={shown}
          onChange={(event) => {
            onSay(event.target.value)
          }}
        >
          {offered.map((one) => (
            <option key={one}>{one}</option>
          ))}
        </select>
      )
    }
    case 'text': {
      const list = `${id} list`
      return (
        <>
          <input
            {...common}
            className={`field w-full ${said === undefined ? 'text-slate' : 'text-ink'}`}
            maxLength={400}
            autoComplete="off"
            list={asked.takes.suggested.length > 0 ? list : undefined}
            placeholder={asked.value === '' ? asked.takes.suggested[0] : undefined}
            value={shown}
            onChange={(event) => {
              setTyping(event.target.value)
              onSay(event.target.value)
            }}
            onBlur={() => {
              setTyping(null)
            }}
          />
          {asked.takes.suggested.length > 0 && (
            <datalist id={list}>
              {asked.takes.suggested.map((one) => (
                <option key={one} value={one} />
              ))}
            </datalist>
          )}
        </>
      )
    }
  }
}
