import { useState } from 'react'
import type { Board, Grid, Imported, ToImport } from '@/api'
import { Failure } from '@/ui'
import { Cells } from './Cells'
import { address, choicesOf, headOf, NAMES, proposed } from './matching'
import { rememberColumns, rememberedColumns, useImport } from './useImport'

/** What the columns of a sheet are, what would be refused, and taking it. */
export function Matching({ board, sheet }: { board: Board; sheet: Grid }) {
  const practical = board.run.practical
  const choices = choicesOf(board)
  const first = (row: number) => proposed(headOf(sheet, row), choices, rememberedColumns(practical))
  const [head, setHead] = useState(0)
  const [columns, setColumns] = useState(() => first(0))
  const [namesOf, setNamesOf] = useState<ToImport['names_of']>('groups')
  const [reason, setReason] = useState('')
  const { take } = useImport(board.run.id)
  const rows = sheet.rows.slice(head + 1)
  const names = columns.indexOf(NAMES)
  const matched = columns.flatMap((key, column) => {
    const choice = choices.find((c) => c.key === key)
    return choice ? [{ column, of: choice.of }] : []
  })
  const ready = names >= 0 && matched.length > 0 && rows.length > 0
  const send = (onlyLook: boolean) => {
    rememberColumns(practical, headOf(sheet, head), columns)
    take.mutate({ rows, names, names_of: namesOf, columns: matched, reason, only_look: onlyLook })
  }
  const changed = () => {
    take.reset()
  }
  const looked = take.data
  const sound = looked?.refused.length === 0 && looked.fresh + looked.replaced > 0
  return (
    <div>
      <div className="mb-3 flex flex-wrap items-baseline gap-x-8 gap-y-2 text-note text-slate">
        <label className="flex items-baseline gap-2">
          column headings are in row
          <select
            className="field"
            value={head}
            onChange={(event) => {
              const row = Number(event.target.value)
              setHead(row)
              setColumns(first(row))
              changed()
            }}
          >
            {sheet.rows.slice(0, 10).map((_, i) => (
              <option key={i} value={i}>
                {i + 1}
              </option>
            ))}
          </select>
        </label>
        <label className="flex items-baseline gap-2">
          the names are of
          <select
            className="field"
            value={namesOf}
            onChange={(event) => {
              setNamesOf(event.target.value === 'students' ? 'students' : 'groups')
              changed()
            }}
          >
            <option value="groups">groups</option>
            <option value="students">students</option>
          </select>
        </label>
      </div>
      <Cells
        head={headOf(sheet, head)}
        rows={rows}
        top={head + 1}
        columns={columns}
        choices={choices}
        refused={looked?.refused ?? []}
        onColumn={(column, key) => {
          // The names, and each place, are in one column only.
          setColumns(columns.map((k, i) => (i === column ? key : k === key ? '' : k)))
          changed()
        }}
      />
      {looked && <Outcome of={looked} top={head + 1} />}
      {looked?.refused.some((r) => r.wants_reason) === true && (
        <label className="mb-2 block text-note text-slate">
          <span className="block">reason for replacing the values that are there</span>
          <input
            className="field w-full max-w-[28rem] text-body"
            maxLength={200}
            value={reason}
            onChange={(event) => {
              setReason(event.target.value)
            }}
          />
        </label>
      )}
      {take.isError && <Failure error={take.error}>Nothing was taken.</Failure>}
      {looked?.taken !== true && (
        <button
          type="button"
          className="action mt-2"
          disabled={!ready || take.isPending}
          onClick={() => {
            send(!sound)
          }}
        >
          {sound ? `Take ${looked.fresh + looked.replaced} values` : 'Check the cells'}
        </button>
      )}
      {!ready && (
        <p className="mt-1 text-note text-slate">
          {names < 0
            ? 'Say which column has the names.'
            : matched.length === 0
              ? 'Say what at least one other column is.'
              : 'There are no rows below the headings.'}
        </p>
      )}
    </div>
  )
}

function Outcome({ of, top }: { of: Imported; top: number }) {
  const parts = [
    `${of.fresh} new`,
    of.replaced > 0 ? `${of.replaced} replacing another value` : '',
    of.alike > 0 ? `${of.alike} there already` : '',
    of.filled_up > 0 ? `${of.filled_up} with their trailing zeros restored` : '',
  ].filter((p) => p !== '')
  if (of.refused.length === 0) {
    return (
      <p role="status" className="mt-3 border-l-4 border-teal pl-3">
        {of.taken ? 'Taken: ' : 'Nothing is wrong: '}
        {parts.join(', ')}.
      </p>
    )
  }
  return (
    <div role="alert" className="my-3 border-l-4 border-magenta pl-3">
      <p className="font-semibold text-magenta">
        {of.refused.length === 1 ? 'One cell cannot be taken' : `${of.refused.length} cells cannot be taken`};
        nothing was.
      </p>
      <ul className="text-note">
        {of.refused.slice(0, 20).map((r) => (
          <li key={`${r.row} ${r.column}`}>
            <span className="font-mono">{address(r.row + top, r.column)}</span> {r.why}
          </li>
        ))}
        {of.refused.length > 20 && <li className="text-slate">and {of.refused.length - 20} more</li>}
      </ul>
    </div>
  )
}
