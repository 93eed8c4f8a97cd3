import { useCallback, useEffect, useRef, useState } from 'react'
import { useLocation } from 'react-router'
import type { PlanView } from '@/api'
import { consequenceWords } from '@/words'
import type { Changes } from '../usePlan'

const PAUSE = 700

/**
 * The practical as text: the only truth. It is kept as it is typed, sound or not, shortly after the last key; what the
 * server has not got yet stays on this page and in this browser.
 */
export function TextView({ view, changes }: { view: PlanView; changes: Changes }) {
  const kept = `keen-beaker plan ${view.id}`
  const [text, setText] = useState(() => localStorage.getItem(kept) ?? view.text)
  // What the server had when this text was last equal to it: another text arriving later is somebody's change.
  const [base, setBase] = useState(view.text)
  const area = useRef<HTMLTextAreaElement>(null)
  const gutter = useRef<HTMLDivElement>(null)
  const { mutate, isPending, isError } = changes.change
  const dirty = text !== base

  if (view.text !== base && !isPending) {
    setBase(view.text)
    if (!dirty) setText(view.text)
  }

  useEffect(() => {
    if (dirty) localStorage.setItem(kept, text)
    else localStorage.removeItem(kept)
  }, [kept, dirty, text])

  const keep = useCallback(() => {
    if (text !== view.text) mutate({ kind: 'text', text })
  }, [mutate, text, view.text])

  useEffect(() => {
    if (!dirty || isPending || isError) return
    const timer = setTimeout(keep, PAUSE)
    return () => {
      clearTimeout(timer)
    }
  }, [dirty, isPending, isError, keep])

  const goTo = useCallback((line: number, column: number) => {
    const box = area.current
    if (!box) return
    const lines = box.value.split('\n')
    const at = lines.slice(0, line - 1).reduce((n, l) => n + l.length + 1, 0) + column - 1
    box.focus()
    box.setSelectionRange(at, at)
    box.scrollTop = Math.max(0, (line - 6) * LINE)
  }, [])
  const { hash } = useLocation()
  useEffect(() => {
    const place = /^#L(\d+)\.(\d+)$/.exec(hash)
    if (place) goTo(Number(place[1]), Number(place[2]))
  }, [hash, goTo])

  const wrong = new Map(view.problems.map((p) => [p.place.line, p.reason]))
  const count = text.split('\n').length
  const warns = view.plan?.notes.filter((n) => n.warns) ?? []
  return (
    <div className="grid gap-x-10 desk:grid-cols-[minmax(0,1fr)_17rem]">
      <div>
        <div className="flex h-[70vh] border border-rule bg-sheet font-mono text-note">
          <div
            ref={gutter}
            aria-hidden="true"
            className="w-12 shrink-0 overflow-hidden border-r border-copper py-2 text-right text-pencil select-none"
          >
            {Array.from({ length: count }, (_, i) => (
              <div
                key={i}
                title={wrong.get(i + 1)}
                className={`h-[18px] pr-2 ${wrong.has(i + 1) ? 'bg-magenta text-paper' : ''}`}
              >
                {i + 1}
              </div>
            ))}
          </div>
          <textarea
            ref={area}
            aria-label="the practical as text"
            spellCheck={false}
            wrap="off"
            className="min-w-0 flex-1 resize-none bg-transparent p-2 leading-[18px] whitespace-pre"
            value={text}
            onChange={(event) => {
              setText(event.target.value)
              if (isError) changes.change.reset()
            }}
            onScroll={(event) => {
              if (gutter.current) gutter.current.scrollTop = event.currentTarget.scrollTop
            }}
            onBlur={keep}
            onKeyDown={(event) => {
              if ((event.ctrlKey || event.metaKey) && event.key === 's') {
                event.preventDefault()
                keep()
              }
            }}
          />
        </div>
        <p className="mt-1 text-note text-slate" aria-live="polite">
          {isError
            ? 'Not kept on the server; it is kept in this browser. Mend it or try again.'
            : dirty
              ? 'Typing; it is kept when you pause.'
              : `Kept. ${count} lines; the format is described in docs/format.md.`}
          {isError && (
            <button type="button" className="action ml-3 text-note" onClick={keep}>
              try again
            </button>
          )}
        </p>
      </div>
      <aside aria-label="what follows from the text" className="border-l border-copper pl-5 max-desk:mt-6">
        <h2 className="mb-3 text-note">what is wrong, and what does not add up</h2>
        {view.problems.length === 0 && warns.length === 0 && (
          <p className="text-note text-slate">Nothing: it can be published.</p>
        )}
        <ul className="flex flex-col gap-4 text-note">
          {view.problems.map((p, i) => (
            <li key={i} className="border-l-3 border-magenta pl-2">
              <button
                type="button"
                className="text-left text-magenta underline decoration-rule underline-offset-4"
                onClick={() => {
                  goTo(p.place.line, p.place.column)
                }}
              >
                line {p.place.line}, character {p.place.column}
              </button>
              <p>
                {p.place.item !== '' && `${p.place.item}: `}
                {p.reason}
              </p>
              {p.hint != null && <p className="text-slate">{p.hint}</p>}
            </li>
          ))}
          {warns.map((n, i) => {
            const { head, body } = consequenceWords(n.what)
            return (
              <li key={`w${i}`} className="text-slate">
                <b className="font-semibold text-copper-text">{head}</b> {body}
              </li>
            )
          })}
        </ul>
      </aside>
    </div>
  )
}

/** Height of a line of the text, px. */
const LINE = 18
