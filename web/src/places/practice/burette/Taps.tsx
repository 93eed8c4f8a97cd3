import type { ReactNode } from 'react'
import type { useBurette } from './useBurette'

type Burette = ReturnType<typeof useBurette>

/** The taps, large enough for a thumb; a stream runs as long as its key is held, by finger, mouse or keyboard. */
export function Taps({ burette, started }: { burette: Burette; started: boolean }) {
  const filled = burette.acts.some((a) => a.kind === 'fill')
  return (
    <div className="mt-3 grid grid-cols-2 gap-1.5">
      <Press
        onPress={() => {
          burette.act({ kind: 'fill' })
        }}
      >
        {filled ? 'Fill again' : 'Fill the burette'}
      </Press>
      <Hold burette={burette} what="run-off" disabled={!filled}>
        Hold: run to waste
      </Hold>
      {started && (
        <>
          <Hold burette={burette} what="run" disabled={false} wide>
            Hold: stream into the flask
          </Hold>
          <Press
            onPress={() => {
              burette.act({ kind: 'drop' })
            }}
          >
            One drop
          </Press>
          <Press
            onPress={() => {
              burette.act({ kind: 'split-drop' })
            }}
          >
            Half a drop
          </Press>
          <Press
            wide
            onPress={() => {
              burette.act({ kind: 'swirl' })
            }}
          >
            Swirl
          </Press>
        </>
      )}
    </div>
  )
}

const KEY =
  'min-h-14 border border-rule bg-sheet px-2 active:bg-copper-wash aria-pressed:border-copper aria-pressed:bg-copper-wash disabled:text-pencil'

function Press({ onPress, wide, children }: { onPress: () => void; wide?: boolean; children: ReactNode }) {
  return (
    <button type="button" className={`${KEY} ${wide === true ? 'col-span-2' : ''}`} onClick={onPress}>
      {children}
    </button>
  )
}

function Hold({
  burette,
  what,
  disabled,
  wide,
  children,
}: {
  burette: Burette
  what: 'run' | 'run-off'
  disabled: boolean
  wide?: boolean
  children: ReactNode
}) {
  const on = burette.open === what
  return (
    <button
      type="button"
      disabled={disabled}
      aria-pressed={on}
      className={`${KEY} touch-none ${wide === true ? 'col-span-2' : ''}`}
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId)
        burette.turnOn(what)
      }}
      onPointerUp={burette.turnOff}
      onPointerCancel={burette.turnOff}
      onKeyDown={(event) => {
        if ((event.key === ' ' || event.key === 'Enter') && !event.repeat) {
          event.preventDefault()
          burette.turnOn(what)
        }
      }}
      onKeyUp={(event) => {
        if (event.key === ' ' || event.key === 'Enter') {
          event.preventDefault()
          burette.turnOff()
        }
      }}
      onBlur={burette.turnOff}
    >
      {children}
    </button>
  )
}
