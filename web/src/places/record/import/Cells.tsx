import type { GridCell, Imported } from '@/api'
import { Wide } from '@/ui'
import { address, NAMES, NOTHING, shown, type Choice } from './matching'

/** Rows that are shown; all are taken. */
const MOST_SHOWN = 40

/** The cells of a sheet, with what each column is above it; those that were refused stand out. */
export function Cells({
  head,
  rows,
  top,
  columns,
  choices,
  refused,
  onColumn,
}: {
  head: readonly string[]
  rows: readonly (readonly GridCell[])[]
  /** The number of the first row in the sheet, counted from 0. */
  top: number
  columns: readonly string[]
  choices: readonly Choice[]
  refused: Imported['refused']
  onColumn: (column: number, key: string) => void
}) {
  const why = new Map(refused.map((r) => [`${r.row} ${r.column}`, r.why]))
  return (
    <Wide label="cells of the sheet, scrolls sideways">
      <table className="border-collapse text-note">
        <caption className="sr-only">cells of the sheet</caption>
        <thead>
          <tr className="align-bottom">
            <td />
            {head.map((words, column) => (
              <th key={column} scope="col" className="py-1 pr-3 text-left font-normal">
                <span className="block max-w-44 truncate text-slate">{words === '' ? '–' : words}</span>
                <select
                  aria-label={`column ${address(0, column).replace('1', '')}, ${words}`}
                  className={`field max-w-44 ${columns[column] === NOTHING ? 'text-slate' : 'font-semibold'}`}
                  value={columns[column]}
                  onChange={(event) => {
                    onColumn(column, event.target.value)
                  }}
                >
                  <option value={NOTHING}>left out</option>
                  <option value={NAMES}>names</option>
                  {choices.map((c) => (
                    <option key={c.key} value={c.key}>
                      {c.label}
                    </option>
                  ))}
                </select>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.slice(0, MOST_SHOWN).map((row, r) => (
            <tr key={r} className="border-t border-rule">
              <th scope="row" className="pr-3 text-right font-mono font-normal text-pencil">
                {top + r + 1}
              </th>
              {row.map((cell, c) => {
                const wrong = why.get(`${r} ${c}`)
                return (
                  <td
                    key={c}
                    title={wrong}
                    className={`max-w-44 truncate py-1 pr-3 ${cell.is === 'number' ? 'font-mono' : ''} ${
                      wrong !== undefined
                        ? 'border-b-2 border-magenta text-magenta'
                        : columns[c] === NOTHING
                          ? 'text-pencil'
                          : ''
                    }`}
                  >
                    {shown(cell)}
                  </td>
                )
              })}
            </tr>
          ))}
        </tbody>
      </table>
      {rows.length > MOST_SHOWN && (
        <p className="text-note text-slate">and {rows.length - MOST_SHOWN} more rows</p>
      )}
    </Wide>
  )
}
