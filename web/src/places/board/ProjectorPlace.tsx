import { useMemo } from 'react'
import { Link, useParams } from 'react-router'
import type { Board, Row } from '@/api'
import { clockTime, DotStrip, Draining, Failure, Name, setUnit, span, StateMark, useServerClock } from '@/ui'
import { due } from './attention'
import { atWork, cellOf, columnsOf, dotsOf, type Column } from './columns'
import { useBoard } from './useBoard'

/** For the wall: how far the class is and what it shares, without names of people, without anything that was typed as text. */
export function ProjectorPlace() {
  const run = Number(useParams()['run'])
  const { board } = useBoard(run)
  if (board.isPending) return <p className="p-12 text-slate">Setting up the wall …</p>
  if (board.isError) return <Failure error={board.error} />
  return <Wall board={board.data} />
}

function Wall({ board }: { board: Board }) {
  const now = useServerClock(board.now)
  const columns = useMemo(() => columnsOf(board), [board])
  const rows = atWork(board)
  const clocks = due(board, now)
  return (
    <main className="mx-auto max-w-[84rem] px-4 py-8 text-board desk:px-10">
      <div className="flex flex-wrap items-start justify-between gap-x-10 gap-y-4 desk:flex-nowrap">
        <div>
          <h1 className="text-[2.5rem] leading-tight font-semibold">{board.run.title}</h1>
          <p className="text-slate">
            {board.run.rehearsal && 'rehearsal, '}
            {board.run.class}
          </p>
        </div>
        <div className="flex flex-wrap items-start gap-6 desk:flex-nowrap">
          <div className="text-right">
            <p className="font-mono text-value leading-none">{clockTime(now)}</p>
            {!board.run.rehearsal && (
              <>
                <p className="mt-2 text-slate">
                  join with <span className="font-mono text-ink">{board.run.code}</span>
                </p>
                <p className="text-note text-slate">{board.join_address}</p>
              </>
            )}
          </div>
          {/* Read by cameras: dark on white in either theme. */}
          {!board.run.rehearsal && (
            <img
              src={`/api/v1/runs/${board.run.id}/join.svg`}
              alt={`code for ${board.join_address}`}
              className="block size-36 bg-white p-2"
            />
          )}
        </div>
      </div>
      {board.run.paused_at != null && (
        <p className="mt-6 border-l-8 border-amber pl-5 text-[2.5rem] leading-tight text-amber-text">
          Listen, please.
        </p>
      )}
      <table className="mt-8 w-full border-collapse">
        <caption className="sr-only">how far each group is</caption>
        <tbody>
          {rows.map((row) => (
            <Progress key={row.group} row={row} steps={board.steps.length} clocks={clocks} />
          ))}
        </tbody>
      </table>
      <div className="mt-8 grid gap-x-12 tablet:grid-cols-2 gap-y-6 desk:grid-cols-3">
        {columns.map((column) => (
          <Shared key={column.key} rows={rows} column={column} />
        ))}
      </div>
      <p className="mt-8 text-note print:hidden">
        <Link to={`/board/${board.run.id}`} className="text-copper-text underline underline-offset-4">
          back to the board
        </Link>
      </p>
    </main>
  )
}

/** A group on a line of ticks, one for each step: those done are filled. */
function Progress({
  row,
  steps,
  clocks,
}: {
  row: Row
  steps: number
  clocks: readonly ReturnType<typeof due>[number][]
}) {
  const width = 560
  const x = (n: number) => 4 + (n / Math.max(1, steps)) * (width - 8)
  const clock = clocks.find((c) => c.name === row.name)
  return (
    <tr className="h-14">
      <th scope="row" className="pr-4 desk:w-48 text-left font-semibold">
        {row.name}
      </th>
      <td className="desk:w-[36rem]">
        <svg
          viewBox={`0 0 ${width} 30`}
          role="img"
          aria-label={`${row.steps_done} of ${steps} steps done`}
          className="block w-full max-w-[35rem]"
        >
          <path d={`M4 14H${x(row.steps_done)}`} className="stroke-copper" strokeWidth="6" />
          {Array.from({ length: steps + 1 }, (_, n) => (
            <path key={n} d={`M${x(n)} 18v9`} className="stroke-pencil" strokeWidth="2" />
          ))}
        </svg>
      </td>
      <td className="pl-6">
        {row.help != null && <StateMark kind="doubtful" word="calls for help" />}
        {clock && (
          <span className="flex items-center gap-4">
            <span className={`font-mono ${clock.stands.kind === 'out' ? 'text-amber-text' : ''}`}>
              {clock.stands.kind === 'down'
                ? span(clock.stands.left)
                : clock.stands.kind === 'out'
                  ? `+${span(clock.stands.over)}`
                  : ''}
            </span>
            <span className="w-40">
              <Draining
                seconds={clock.seconds}
                part={clock.stands.kind === 'down' ? clock.stands.part : 1}
                over={clock.stands.kind === 'out'}
              />
            </span>
          </span>
        )}
      </td>
    </tr>
  )
}

/** One column of the class as a strip: where all lie, and nobody in particular. */
function Shared({ rows, column }: { rows: readonly Row[]; column: Column }) {
  const there = rows.filter((r) => cellOf(r, column).kind !== 'empty').length
  if (there < 2 || column.kind === 'result') return null
  const dots = dotsOf(rows, column).map((d) => ({ ...d, label: '', tone: 'plain' as const }))
  return (
    <figure>
      <figcaption className="mb-1 text-body">
        {column.titre ? column.short : <Name of={column.key.split('[')[0] ?? column.key} />}{' '}
        <span className="text-slate">
          {column.label}, {setUnit(column.unit)}
        </span>
      </figcaption>
      <DotStrip dots={dots} low={column.low} high={column.high} unit={column.unit} width={300} />
      <span className="flex w-[300px] justify-between font-mono text-body text-slate">
        <span>{Number(column.low.toPrecision(3))}</span>
        <span>{Number(column.high.toPrecision(3))}</span>
      </span>
    </figure>
  )
}
