import { useLayoutEffect, useState, type RefObject } from 'react'
import type { Row } from '@/api'
import { frontOf, type Column } from './columns'

/** The class front: a copper stepped line through the last filled cell of each row. A stuck group is a dent. */
export function ClassFront({
  table,
  rows,
  columns,
}: {
  table: RefObject<HTMLTableElement | null>
  rows: readonly Row[]
  columns: readonly Column[]
}) {
  const [line, setLine] = useState('')
  useLayoutEffect(() => {
    const element = table.current
    if (!element) return
    const draw = () => {
      const heads = [...element.querySelectorAll<HTMLElement>('thead th')]
      const bodies = [...element.querySelectorAll<HTMLElement>('tbody tr')]
      const points = rows.flatMap((row, i) => {
        const body = bodies[i]
        const head = heads[frontOf(row, columns)]
        if (!body || !head) return []
        const x = element.offsetLeft + head.offsetLeft + head.offsetWidth - 5
        return [
          {
            x,
            top: element.offsetTop + body.offsetTop,
            bottom: element.offsetTop + body.offsetTop + body.offsetHeight,
          },
        ]
      })
      setLine(points.map((p, i) => (i === 0 ? `M${p.x} ${p.top}` : `H${p.x}`) + `V${p.bottom}`).join(''))
    }
    draw()
    const observer = new ResizeObserver(draw)
    observer.observe(element)
    return () => {
      observer.disconnect()
    }
  }, [table, rows, columns])
  return (
    <svg
      aria-hidden="true"
      className="pointer-events-none absolute top-0 left-0 h-full w-full overflow-visible print:hidden"
    >
      <path d={line} fill="none" className="stroke-copper" strokeWidth="2" />
    </svg>
  )
}
