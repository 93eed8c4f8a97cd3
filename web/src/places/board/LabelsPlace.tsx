import { Link, useParams } from 'react-router'
import type { Board, Row } from '@/api'
import { day, Failure, Unit, PrintButton } from '@/ui'
import { atWork } from './columns'
import { useBoard } from './useBoard'

/** Labels for what each group leaves behind: group, product, vessel, date and mass. Printed, cut, stuck on. */
export function LabelsPlace() {
  const run = Number(useParams()['run'])
  const { board } = useBoard(run)
  if (board.isPending) return <p className="py-12 text-slate">Setting the labels …</p>
  if (board.isError) return <Failure error={board.error}>The shelf has the list of runs.</Failure>
  const { data } = board
  const labels = atWork(data).flatMap((row) => data.products.map((product) => ({ row, product })))
  return (
    <div>
      <div className="mb-5 flex items-baseline gap-8 print:hidden">
        <h1 className="text-title">Labels</h1>
        <Link to={`/board/${run}`} className="text-copper-text underline underline-offset-4">
          the board of {data.run.class}
        </Link>
        <PrintButton words="Print them" />
      </div>
      {labels.length === 0 && (
        <p className="text-slate">This practical makes nothing that would be left behind.</p>
      )}
      <ul className="grid gap-px tablet:grid-cols-3 print:grid-cols-3">
        {labels.map(({ row, product }) => (
          <Label key={`${row.group} ${product.symbol}`} board={data} row={row} product={product} />
        ))}
      </ul>
    </div>
  )
}

function Label({ board, row, product }: { board: Board; row: Row; product: Board['products'][number] }) {
  const mass = row.outcome.products[product.symbol]
  const left = row.outcome.waiting.at(-1)
  return (
    <li className="flex min-h-40 break-inside-avoid flex-col border border-pencil p-3">
      <p className="flex items-baseline justify-between gap-3">
        <span className="text-lead font-semibold">{row.name}</span>
        <span className="text-note text-slate">{board.run.class}</span>
      </p>
      <p>{product.name}</p>
      <p className="text-note text-slate">
        {row.allotted.unknown != null && `unknown ${row.allotted.unknown} · `}
        {board.run.title}
      </p>
      {row.tags.length > 0 && <p className="text-note">{row.tags.join(', ')}</p>}
      <p className="mt-auto flex items-baseline justify-between gap-3 pt-2">
        <span>{left ? `${left.title}, ${day(left.since)}` : day(row.last_at ?? board.now)}</span>
        <span className="text-right whitespace-nowrap">
          {mass ? (
            <span className="font-mono">
              {mass.text}
              <Unit of={mass.unit} />
            </span>
          ) : (
            <>
              <span className="inline-block w-16 border-b border-ink" /> g
            </>
          )}
        </span>
      </p>
    </li>
  )
}
