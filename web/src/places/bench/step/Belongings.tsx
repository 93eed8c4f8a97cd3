import { useState } from 'react'
import type { BenchStep, EntryBody } from '@/api'
import type { BenchNow } from '../standing'

/** What the group calls its own at a step: the tag of its crucible, the bottle that it takes from. */
export function Belongings({
  step,
  now,
  closed,
  onEnter,
}: {
  step: BenchStep
  now: BenchNow
  closed: boolean
  onEnter: (entry: EntryBody) => void
}) {
  return (
    <>
      {step.vessels.map((v) => (
        <TagField
          key={v.vessel}
          vessel={v.vessel}
          known={Object.keys(v.masses)}
          tag={now.tags[v.vessel]?.text}
          mass={v.masses[now.tags[v.vessel]?.text ?? '']}
          closed={closed}
          onTag={(tag) => {
            onEnter({ kind: 'tag', vessel: v.vessel, tag })
          }}
        />
      ))}
      {step.bottles.map((b) => (
        <fieldset key={b.material} className="mb-5" disabled={closed}>
          <legend className="mb-2">Which bottle of {b.name} do you take from?</legend>
          <div className="flex flex-wrap gap-2">
            {b.choices.map((name) => (
              <button
                key={name}
                type="button"
                aria-pressed={now.bottles[b.material]?.text === name}
                className="min-h-14 border border-rule bg-sheet px-4 aria-pressed:border-2 aria-pressed:border-teal aria-pressed:bg-teal-wash aria-pressed:font-semibold"
                onClick={() => {
                  onEnter({ kind: 'bottle', material: b.material, name })
                }}
              >
                {name}
              </button>
            ))}
          </div>
        </fieldset>
      ))}
    </>
  )
}

/** The tag of a vessel, asked for once. */
function TagField({
  vessel,
  known,
  tag,
  mass,
  closed,
  onTag,
}: {
  vessel: string
  known: readonly string[]
  tag: string | undefined
  mass: string | undefined
  closed: boolean
  onTag: (tag: string) => void
}) {
  const [text, setText] = useState('')
  const [changing, setChanging] = useState(false)
  if (tag !== undefined && !changing) {
    return (
      <p className="mb-4 flex flex-wrap items-baseline gap-x-3">
        <span>
          Your {vessel}: <b className="font-mono font-semibold">{tag}</b>
        </span>
        {mass !== undefined && (
          <span className="text-slate">
            weighed beforehand, <span className="font-mono text-ink">{mass}</span> g
          </span>
        )}
        {!closed && (
          <button
            type="button"
            className="min-h-11 text-body underline underline-offset-4"
            onClick={() => {
              setChanging(true)
            }}
          >
            another one
          </button>
        )}
      </p>
    )
  }
  return (
    <form
      className="mb-5 flex flex-wrap items-end gap-2"
      onSubmit={(event) => {
        event.preventDefault()
        if (text.trim() === '') return
        onTag(text.trim())
        setText('')
        setChanging(false)
      }}
    >
      <label className="grow">
        <span className="mb-1 block">What is written on your {vessel}?</span>
        <input
          className="field min-h-14 w-full font-mono"
          list={`${vessel} tags`}
          maxLength={20}
          autoComplete="off"
          value={text}
          onChange={(event) => {
            setText(event.target.value)
          }}
        />
        <datalist id={`${vessel} tags`}>
          {known.map((k) => (
            <option key={k} value={k} />
          ))}
        </datalist>
      </label>
      <button type="submit" className="action min-h-14" disabled={closed || text.trim() === ''}>
        This is ours
      </button>
    </form>
  )
}
