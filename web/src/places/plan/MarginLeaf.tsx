import { useLayoutEffect, useRef, useState, type ReactNode } from 'react'
import type { Note } from '@/api'
import { MarginNote, StateMark } from '@/ui'
import { consequenceWords } from '@/words'
import { lineName } from './path'

/**
 * The margin: what follows, each note beside the line that causes it. A note that has no room there moves down; on a
 * narrow page and on paper they follow in their order.
 */
export function MarginLeaf({ notes, children }: { notes: readonly Note[]; children?: ReactNode }) {
  const leaf = useRef<HTMLDivElement>(null)
  const [tops, setTops] = useState<readonly number[]>([])
  const [height, setHeight] = useState(0)
  useLayoutEffect(() => {
    const place = () => {
      const box = leaf.current
      if (!box) return
      const origin = box.getBoundingClientRect().top
      let free = 8
      const found: number[] = []
      const items = [...box.children] as HTMLElement[]
      for (const [i, note] of notes.entries()) {
        const line = document.getElementById(lineName(note.beside))
        const wanted = line ? line.getBoundingClientRect().top - origin : free
        const top = Math.max(wanted, free)
        found.push(top)
        free = top + (items[i]?.offsetHeight ?? 0) + 14
      }
      setTops((before) => (before.join() === found.join() ? before : found))
      setHeight(free)
    }
    place()
    const watch = new ResizeObserver(place)
    watch.observe(document.body)
    return () => {
      watch.disconnect()
    }
  }, [notes])
  return (
    <aside aria-label="what follows from the plan" className="border-l border-copper pl-5 max-desk:mt-10">
      <Glance notes={notes} />
      <div ref={leaf} className="relative max-desk:h-auto! print:h-auto!" style={{ height }}>
        {notes.map((note, i) => (
          <div
            key={`${lineName(note.beside)} ${i}`}
            className="inset-x-0 max-desk:mb-4 desk:absolute print:static! print:mb-2"
            style={{ top: tops[i] ?? 0 }}
          >
            <Beside note={note} />
          </div>
        ))}
      </div>
      {children}
    </aside>
  )
}

/** The plan at one look: what it can give, how good, how long, and how much does not add up. */
function Glance({ notes }: { notes: readonly Note[] }) {
  const found = notes.map((n) => n.what)
  const precision = found.findLast((c) => c.kind === 'precision')
  const ceiling = found.find((c) => c.kind === 'ceiling')
  const time = found.find((c) => c.kind === 'time')
  const warns = notes.filter((n) => n.warns)
  return (
    <div className="mb-4 text-note">
      <h2 className="mb-2 text-ink">what follows from it</h2>
      <dl className="grid grid-cols-[minmax(0,1fr)_auto] gap-x-3 gap-y-0.5 text-slate [&>dd]:whitespace-nowrap">
        {ceiling && (
          <>
            <dt>at best</dt>
            <dd className="text-right font-mono text-ink">{`${ceiling.percent}\u2009%`}</dd>
          </>
        )}
        {precision && (
          <>
            <dt>{precision.result}, U (k = 2)</dt>
            <dd className="text-right font-mono text-ink">{`${precision.percent}\u2009%`}</dd>
          </>
        )}
        {time && (
          <>
            <dt>at the bench</dt>
            <dd className="text-right font-mono text-ink">{`${time.minutes.join('–')}\u2009min`}</dd>
          </>
        )}
      </dl>
      {warns.length === 0 ? (
        <p className="mt-2 flex items-center gap-2 text-teal">
          <StateMark kind="settled" word="settled" /> nothing contradicts itself
        </p>
      ) : (
        <p className="mt-2 flex items-center gap-2 text-amber-text">
          <StateMark kind="doubtful" word="look at this" />
          {warns.length === 1 ? 'one thing does not add up' : `${warns.length} things do not add up`}
        </p>
      )}
      <ul>
        {warns.map((n, i) => (
          <li key={i}>
            <a
              className="text-amber-text underline decoration-rule underline-offset-4 hover:decoration-copper"
              href={`#${encodeURIComponent(lineName(n.beside))}`}
            >
              {consequenceWords(n.what).head.replace(/:$/, '')}
            </a>
          </li>
        ))}
      </ul>
    </div>
  )
}

function Beside({ note }: { note: Note }) {
  const { head, body } = consequenceWords(note.what)
  const name = lineName(note.beside)
  return (
    <div
      onMouseEnter={() => document.getElementById(name)?.setAttribute('data-lit', '')}
      onMouseLeave={() => document.getElementById(name)?.removeAttribute('data-lit')}
    >
      <MarginNote head={head}>
        {note.warns && (
          <>
            <StateMark kind="doubtful" word="look at this" />{' '}
          </>
        )}
        {body}
      </MarginNote>
    </div>
  )
}
