import { useLayoutEffect, useRef, useState, type ReactNode } from 'react'
import type { Note } from '@/api'
import { consequenceWords } from '@/words'
import { Glance } from './Glance'
import { lineName } from './path'
import { Told } from './Told'

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
      <Doubts notes={notes} />
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

/** What does not add up, each leading to its line. */
function Doubts({ notes }: { notes: readonly Note[] }) {
  const warns = notes.filter((n) => n.warns)
  return (
    <ul className="mb-4 text-note">
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
  )
}

function Beside({ note }: { note: Note }) {
  const name = lineName(note.beside)
  return (
    <div
      onMouseEnter={() => document.getElementById(name)?.setAttribute('data-lit', '')}
      onMouseLeave={() => document.getElementById(name)?.removeAttribute('data-lit')}
    >
      <Told note={note} />
    </div>
  )
}
