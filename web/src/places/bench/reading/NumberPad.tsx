import { useEffect, useId, useRef, type ReactNode } from 'react'
import { MOST_CHARACTERS, Reading } from '@/ui'
import { pressed, type Key } from './typed'

const DIGITS: readonly Key[] = ['1', '2', '3', '4', '5', '6', '7', '8', '9']
const LAST: readonly Key[] = ['.', '0', ',', 'back']
const spoken: Partial<Record<Key, string>> = { '.': 'point', ',': 'comma', back: 'delete the last digit' }

/**
 * A number being entered: large, digits as typed, over our own keypad, so that no on-screen keyboard covers the bench.
 * A real keyboard and paste work as well.
 */
export function NumberPad({
  label,
  unit,
  text,
  above,
  beside,
  beneath,
  extra,
  choices,
  keep,
  canKeep,
  onText,
  onKeep,
}: {
  label: string
  unit: string
  text: string
  above?: ReactNode
  beside?: ReactNode
  beneath?: ReactNode
  extra?: ReactNode
  choices?: ReactNode
  keep: string
  canKeep: boolean
  onText: (text: string) => void
  onKeep: () => void
}) {
  const id = useId()
  const form = useRef<HTMLFormElement>(null)
  // The number and its keys together on the screen, whatever stands above them and whatever is told there meanwhile: the
  // keys never cover what is being typed.
  useEffect(() => {
    const here = form.current
    const show = () => {
      here?.scrollIntoView({ block: 'end' })
    }
    show()
    const watch = new ResizeObserver(() => {
      if (here?.contains(document.activeElement)) show()
    })
    watch.observe(document.body)
    return () => {
      watch.disconnect()
    }
  }, [])
  const size = text.length > 8 ? 'text-title' : 'text-value'
  return (
    <form
      ref={form}
      className="flex grow flex-col low:grid low:grid-cols-2 low:items-end low:gap-x-5"
      onSubmit={(event) => {
        event.preventDefault()
        if (canKeep) onKeep()
      }}
    >
      {/* On a phone that lies on its side the number stands beside the keys. */}
      <div className="contents low:block">
        {above}
        <div className="grid grid-cols-[minmax(0,1fr)_auto] items-end gap-x-3">
          <div>
            <label htmlFor={id} className="block text-slate">
              {label}
            </label>
            <div
              className={`relative h-[4.25rem] overflow-hidden border-b-2 border-copper font-mono ${size}`}
            >
              <div
                aria-hidden="true"
                className="pointer-events-none absolute inset-0 flex items-center whitespace-pre"
              >
                <Reading text={text} asTyped />
              </div>
              {/* The digits are drawn beneath, so that the last one can be lighter; the caret is the field's own. */}
              <input
                id={id}
                className="absolute inset-0 bg-transparent text-transparent caret-copper outline-none"
                value={text}
                inputMode="none"
                autoComplete="off"
                autoFocus
                maxLength={MOST_CHARACTERS}
                aria-describedby={`${id}-notes`}
                onChange={(event) => {
                  onText(event.target.value)
                }}
              />
            </div>
            <p className="mt-1 text-slate">{unit}</p>
          </div>
          {beside}
        </div>
        <div id={`${id}-notes`} role="status" className="min-h-8 py-1.5 text-body">
          {extra}
        </div>
        {beneath}
      </div>
      <div className="sticky bottom-0 mt-auto grid grid-cols-[minmax(0,1fr)_5.5rem] gap-1.5 bg-paper pt-1 pb-3">
        {choices && <div className="col-span-2">{choices}</div>}
        <div className="grid grid-cols-12 gap-1.5">
          {DIGITS.map((key) => (
            <PadKey
              key={key}
              of={key}
              className="col-span-4"
              onPress={() => {
                onText(pressed(text, key))
              }}
            />
          ))}
          {LAST.map((key) => (
            <PadKey
              key={key}
              of={key}
              className="col-span-3"
              onPress={() => {
                onText(pressed(text, key))
              }}
            />
          ))}
        </div>
        <button
          type="submit"
          disabled={!canKeep}
          className="bg-ink px-2 text-lead font-semibold text-paper disabled:border disabled:border-rule disabled:bg-transparent disabled:text-pencil"
        >
          {keep}
        </button>
      </div>
    </form>
  )
}

function PadKey({ of, className, onPress }: { of: Key; className: string; onPress: () => void }) {
  return (
    <button
      type="button"
      aria-label={spoken[of]}
      className={`min-h-14 low:min-h-12 border border-rule bg-sheet font-mono text-title active:bg-copper-wash ${className}`}
      // The caret stays in the number while fingers are on the keys.
      onPointerDown={(event) => {
        event.preventDefault()
      }}
      onClick={onPress}
    >
      {of === 'back' ? '⌫' : of}
    </button>
  )
}
