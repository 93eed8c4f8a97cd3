import { useMemo, useRef } from 'react'
import { Link } from 'react-router'
import type { Board, Row } from '@/api'
import { columnWidths, DotStrip, Name, Reading, setUnit, StateMark } from '@/ui'
import { ClassFront } from './ClassFront'
import { cellOf, dotsOf, type Cell, type Column } from './columns'

/** A cell that is being looked at. */
export interface Spot {
  group: number
  key: string
}

/** Groups by readings and results, in bench order, without cell borders; points stand beneath each other. */
export function BoardTable({
  board,
  columns,
  shown,
  spot,
  onSpot,
}: {
  board: Board
  columns: readonly Column[]
  /** Groups that are shown. */
  shown: ReadonlySet<number>
  spot: Spot | null
  onSpot: (spot: Spot | null) => void
}) {
  const table = useRef<HTMLTableElement>(null)
  const rows = useMemo(() => board.rows.filter((r) => shown.has(r.group)), [board.rows, shown])
  return (
    <div
      className={`relative min-w-0 border-l border-copper pl-3 ${columns.length > MOST ? 'overflow-x-auto' : 'max-desk:overflow-x-auto'}`}
    >
      <table ref={table} className="w-full border-collapse">
        <caption className="sr-only">groups by readings and results</caption>
        <thead>
          <tr className="align-bottom">
            <th scope="col" className="w-[6.6rem] pb-3 text-left text-note font-normal text-slate">
              group
            </th>
            {columns.map((column) => (
              <Head key={column.key} column={column} rows={board.rows} tight={columns.length > LOOSE} />
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <BoardRow key={row.group} row={row} columns={columns} board={board} spot={spot} onSpot={onSpot} />
          ))}
        </tbody>
      </table>
      <ClassFront table={table} rows={rows} columns={columns} />
    </div>
  )
}

/** Columns up to which each has a wide scale; and those beyond which the table scrolls beside the margin. */
const LOOSE = 8
const MOST = 9

function Head({ column, rows, tight }: { column: Column; rows: readonly Row[]; tight: boolean }) {
  return (
    <th scope="col" className="pr-2 pb-3 text-left text-note font-normal" title={column.label}>
      <span className="mb-2 block leading-tight">
        {column.kind === 'reading' ? (
          <>
            {!column.titre && <i>{column.key.split('_')[0]} </i>}
            {column.short}
          </>
        ) : (
          <Name of={column.key} />
        )}{' '}
        <span className="text-slate">{setUnit(column.unit)}</span>
      </span>
      <DotStrip
        dots={dotsOf(rows, column)}
        low={column.low}
        high={column.high}
        unit={column.unit}
        width={tight ? 80 : 92}
        {...(column.kind === 'reading' && column.band !== null ? { band: column.band } : {})}
      />
    </th>
  )
}

function BoardRow({
  row,
  columns,
  board,
  spot,
  onSpot,
}: {
  row: Row
  columns: readonly Column[]
  board: Board
  spot: Spot | null
  onSpot: (spot: Spot | null) => void
}) {
  return (
    <tr className="h-[3.4rem]">
      <th scope="row" className="text-left text-lead font-semibold">
        <Link
          to={`/board/${board.run.id}/groups/${row.group}`}
          className={`underline decoration-transparent underline-offset-4 hover:decoration-copper ${row.claimed ? '' : 'text-pencil'}`}
        >
          {row.name}
        </Link>
        <Guests board={board} row={row} />
        {row.help == null && row.at != null && (
          <span
            className="block max-w-[6.2rem] truncate text-note font-normal text-slate"
            title={board.steps[row.at]}
          >
            {row.at + 1} {board.steps[row.at]}
          </span>
        )}
        {row.help != null && (
          <span className="block border-l-4 border-amber pl-1.5 text-note text-amber-text">
            calls for help
          </span>
        )}
      </th>
      {columns.map((column) => (
        <td key={column.key} className="pr-1">
          <CellButton
            cell={cellOf(row, column)}
            column={column}
            row={row}
            rows={board.rows}
            chosen={spot?.group === row.group && spot.key === column.key}
            onSpot={onSpot}
          />
        </td>
      ))}
    </tr>
  )
}

/** What the group was given, and the groups that go on at its bench. */
function Guests({ board, row }: { board: Board; row: Row }) {
  const guests = board.rows.filter((r) => r.merged_into === row.group)
  const given = row.allotted.assignment ?? row.allotted.unknown
  if (guests.length === 0 && given == null) return null
  return (
    <span className="block max-w-[6.4rem] truncate text-note font-normal text-copper-text">
      {[given, ...guests.map((g) => `with ${g.name}`)].filter(Boolean).join(', ')}
    </span>
  )
}

function CellButton({
  cell,
  column,
  row,
  rows,
  chosen,
  onSpot,
}: {
  cell: Cell
  column: Column
  row: Row
  rows: readonly Row[]
  chosen: boolean
  onSpot: (spot: Spot | null) => void
}) {
  if (cell.kind === 'empty') return null
  const all = rows.map((r) => cellOf(r, column))
  const widths = columnWidths(all.flatMap((c) => (isNumber(c) ? [c.text] : [])))
  const odd = cell.kind === 'reading' ? cell.state !== 'settled' : cell.doubtful
  const wrong = cell.kind === 'reading' && cell.state === 'wrong'
  const weight = wrong
    ? 'font-semibold text-magenta [&_span]:text-magenta'
    : odd
      ? 'font-semibold text-amber-text [&_span]:text-amber-text'
      : cell.kind === 'reading' && cell.partly
        ? 'text-slate'
        : cell.kind === 'result' && cell.answer === null
          ? 'text-slate'
          : ''
  return (
    <button
      type="button"
      aria-pressed={chosen}
      aria-label={`${row.name}, ${column.label}: ${cell.text} ${column.unit}`}
      className={`relative inline-flex min-h-11 items-center gap-1 text-board aria-pressed:bg-copper-wash ${weight}`}
      onClick={() => {
        onSpot(chosen ? null : { group: row.group, key: column.key })
      }}
    >
      <span className={wrong ? 'border-b-2 border-dashed border-magenta' : ''}>
        <Reading text={cell.text} {...widths} />
      </span>
      <Mark cell={cell} column={column} />
    </button>
  )
}

/** Whether a cell shows a number, so that points can stand beneath each other. */
function isNumber(cell: Cell): cell is Exclude<Cell, { kind: 'empty' }> {
  return cell.kind !== 'empty' && !(cell.kind === 'reading' && cell.partly)
}

/** Beside a result: how the group's own answer stands. Beside a reading: only what is odd, or was corrected. */
function Mark({ cell, column }: { cell: Exclude<Cell, { kind: 'empty' }>; column: Column }) {
  if (cell.kind === 'reading' && cell.entered.borrowed != null) {
    return <span className="text-note text-copper-text">lent</span>
  }
  if (cell.kind === 'result') {
    if (column.kind === 'result' && !column.asked) return null
    const word = cell.answer ? `answer ${cell.answer.text} ${cell.answer.unit}` : 'no answer yet'
    return <StateMark kind={cell.state} word={word} />
  }
  if (cell.state === 'doubtful') return <StateMark kind="doubtful" />
  if (cell.entered.struck.length > 0 && !(column.kind === 'reading' && column.titre)) {
    return (
      <span className="text-note text-copper-text" title="corrected">
        <s aria-label={`corrected from ${cell.entered.struck.at(-1)?.text ?? ''}`}>
          {cell.entered.struck.at(-1)?.text}
        </s>
      </span>
    )
  }
  return null
}
